// A file sent as it is, with word of how far it is: fetch has none.
import { Problem } from "./api/client";
import type { ProblemDocument } from "./api/types";

export function sendFile<T>(path: string, file: File, told: (share: number) => void): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", path);
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.upload.onprogress = (event) => told(event.lengthComputable ? event.loaded / event.total : 0);
    request.onerror = () => reject(new Problem(0, "The program does not answer. Is it still running?"));
    request.onload = () => {
      let answer: unknown = null;
      try {
        answer = JSON.parse(request.responseText || "null");
      } catch {
        // What stands before the program refused it in words of its own: the status says enough.
      }
      if (request.status < 400) resolve(answer as T);
      else
        reject(
          new Problem(
            request.status,
            (answer as ProblemDocument | null)?.detail ?? `The program answered ${request.status}.`,
          ),
        );
    };
    request.send(file);
  });
}
