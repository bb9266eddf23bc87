import { type Artwork, type ColourTable, type Folder, type PdfDocument, type Profile, ProblemError } from "../api";
import { asProblem, csrfToken } from "../api/client";

export const uploadArtwork = (file: File, onProgress: (share: number) => void) => send<Artwork>("/api/artwork", file, onProgress);
export const uploadProfile = (file: File) => send<Profile>("/api/profiles", file);
export const uploadDocument = (file: File, onProgress: (share: number) => void) => send<PdfDocument>("/api/documents", file, onProgress);
export const uploadToFolder = (folder: number, file: File) => send<Folder>(`/api/folders/${folder}/files`, file);
export const uploadTable = (file: File) => send<ColourTable>("/api/tables", file);

/** Send a file with progress 0..1; rejects with a ProblemError. */
function send<T>(address: string, file: File, onProgress: (share: number) => void = () => undefined): Promise<T> {
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
      else reject(new ProblemError(asProblem(request.response, request.status)));
    };
    request.onerror = () => {
      reject(new ProblemError({ status: 0, code: "unreachable", title: "The file did not reach the server.", remedy: "Check that Plinto is running and try again." }));
    };
    const form = new FormData();
    form.append("file", file);
    request.send(form);
  });
}
