import { useRef, useState } from "react";

import { api, ask, type KeptLook } from "../api";
import { save } from "../plots/save";
import { FileInput, readJson } from "../ui/FileInput";
import { Notice } from "../ui/Notice";
import { type Look, lookFrom, lookToKeep } from "./look";

/** A look taken out as a file and in again; `parts` is to stand beside what opens it. */
export function useLookFile(job: number, look: Look, onLook: (look: Look) => void) {
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<Error | null>(null);
  const read = async (file: File) => {
    try {
      const body = await readJson<KeptLook>(file, "a look");
      // The server judges it and answers with what it kept.
      const kept = await ask(
        api.PUT("/api/jobs/{id}/look", { params: { path: { id: job } }, body }),
      );
      onLook(lookFrom(kept));
      setProblem(null);
    } catch (caught) {
      setProblem(caught instanceof Error ? caught : new Error(String(caught)));
    }
  };
  return {
    out: () =>
      save("look.json", JSON.stringify(lookToKeep(look), null, 2) + "\n", "application/json"),
    in: () => input.current?.click(),
    parts: (
      <>
        <FileInput
          ref={input}
          label="File of a look"
          accept=".json"
          onFiles={([file]) => {
            if (file) void read(file);
          }}
        />
        {problem && <Notice problem={problem} onDismiss={() => setProblem(null)} />}
      </>
    ),
  };
}
