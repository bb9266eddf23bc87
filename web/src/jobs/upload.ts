import { type Artwork, ProblemError } from "../api";
import { asProblem, csrfToken } from "../api/client";

/** Send a file with progress 0..1; rejects with a ProblemError. */
export function uploadArtwork(file: File, onProgress: (share: number) => void): Promise<Artwork> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", "/api/artwork");
    request.setRequestHeader("X-CSRFToken", csrfToken());
    request.responseType = "json";
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) onProgress(event.loaded / event.total);
    };
    request.onload = () => {
      if (request.status === 201) resolve(request.response as Artwork);
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
