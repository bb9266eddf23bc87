import {
  type Artwork,
  type ColourTable,
  type Condition,
  type Folder,
  type Job,
  type KeptAim,
  type PdfDocument,
  ProblemError,
  type Profile,
  type ProfileBuild,
  type ProofReadingJudged,
  type ProofTolerances,
  type SwatchList,
} from "../api";
import { asProblem, csrfToken, ended, type Problem } from "../api/client";
import { signedInAgain } from "../api/signedIn";

export const uploadArtwork = (file: File, onProgress: (share: number) => void) =>
  send<Artwork>("/api/artwork", file, onProgress);
export const uploadProfile = (file: File, part?: Profile["parts"][number]) =>
  send<Profile>(`/api/profiles${part ? `?part=${part}` : ""}`, file);
export const uploadDocument = (file: File, onProgress: (share: number) => void) =>
  send<PdfDocument>("/api/documents", file, onProgress);
export const uploadToFolder = (folder: number, file: File) =>
  send<Folder>(`/api/folders/${folder}/files`, file);
export const uploadCondition = (file: File) => send<Condition>("/api/conditions/import", file);
/** Every profile of a file: a profile, an archive, a picture, a PDF. */
export const receiveProfiles = (file: File) => send<Profile[]>("/api/profiles/receive", file);
/** The lists of a file: two where it holds device values and their measured colours. */
export const receiveSwatches = (file: File) => send<SwatchList[]>("/api/swatch-lists/file", file);
export const startBuild = (file: File, asked: Record<string, string | number>) =>
  send<ProfileBuild>(
    `/api/builds?${new URLSearchParams(Object.entries(asked).map(([k, v]) => [k, String(v)]))}`,
    file,
  );
/** An aim of numbers: as Plinto writes it, characterisation data, rows of text. */
export const receiveAim = (file: File) => send<KeptAim>("/api/aims/file", file);
/** A measured strip of a proof, judged by the tolerances. */
export const uploadReading = (proof: number, file: File, tolerances: ProofTolerances) =>
  send<ProofReadingJudged>(
    `/api/proofs/${proof}/readings/file?${new URLSearchParams({ tolerances: JSON.stringify(tolerances) })}`,
    file,
  );
/** Measured colours wanted at a job's sample points. */
export const uploadTargets = (job: number, file: File) =>
  send<Job>(`/api/jobs/${job}/points/targets`, file);
export const uploadTable = (file: File) => send<ColourTable>("/api/tables", file);

/** Send a file with progress 0..1; rejects with a ProblemError. */
function send<T>(
  address: string,
  file: File,
  onProgress: (share: number) => void = () => undefined,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", address);
    request.setRequestHeader("X-CSRFToken", csrfToken());
    request.responseType = "json";
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) onProgress(event.loaded / event.total);
    };
    request.onload = () => {
      if (request.status === 201) resolve(request.response as T);
      // A session that ended: the file goes again once somebody has signed in.
      else if (request.status === 403 && ended(request.response as Partial<Problem> | null))
        void signedInAgain()
          .then(() => send<T>(address, file, onProgress))
          .then(resolve, reject);
      else reject(new ProblemError(asProblem(request.response, request.status)));
    };
    request.onerror = () => {
      reject(
        new ProblemError({
          status: 0,
          code: "unreachable",
          title: "The file did not reach the server.",
          remedy: "Check that Plinto is running and try again.",
          fields: [],
          errors: [],
        }),
      );
    };
    const form = new FormData();
    form.append("file", file);
    request.send(form);
  });
}
