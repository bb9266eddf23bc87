import type { Ref } from "react";

interface Props {
  ref?: Ref<HTMLInputElement>;
  label: string;
  /** Endings that the file dialog offers, ".icc,.icm". */
  accept?: string;
  multiple?: boolean;
  onFiles: (files: File[]) => void;
}

/** Where files are chosen; a button clicks it. The same file can be chosen twice in a row. */
export function FileInput({ ref, label, accept, multiple = false, onFiles }: Props) {
  return (
    <input
      ref={ref}
      type="file"
      hidden
      multiple={multiple}
      accept={accept}
      aria-label={label}
      onChange={(event) => {
        const files = [...(event.target.files ?? [])];
        if (files.length > 0) onFiles(files);
        event.target.value = "";
      }}
    />
  );
}

/** The JSON of a file that came from outside; rejects with a sentence for people. */
export async function readJson<T>(file: File, what: string): Promise<T> {
  try {
    return JSON.parse(await file.text()) as T;
  } catch {
    throw new Error(`${file.name} is not a file of ${what}.`);
  }
}
