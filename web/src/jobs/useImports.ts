import { useCallback, useEffect, useRef, useState } from "react";

import type { Artwork, PdfDocument } from "../api";
import { uploadArtwork, uploadDocument } from "../queries/upload";

/** A file on its way in. */
export interface Import {
  file: File;
  /** A document belongs to Policies; a picture becomes a job. */
  kind: "picture" | "document";
  share: number;
  artwork: Artwork | null;
  document: PdfDocument | null;
  error: Error | null;
}

const isPdf = (file: File) => file.type === "application/pdf" || /\.pdf$/i.test(file.name);

/** Takes several files in, one after the other; a document waits until it is wanted in Policies. */
export function useImports(files: File[]) {
  const [imports, setImports] = useState<Import[]>(() =>
    files.map((file) => ({
      file,
      kind: isPdf(file) ? "document" : "picture",
      share: 0,
      artwork: null,
      document: null,
      error: null,
    })),
  );
  const put = useCallback(
    (index: number, part: Partial<Import>) =>
      setImports((old) => old.map((x, i) => (i === index ? { ...x, ...part } : x))),
    [],
  );
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    void (async () => {
      for (const [i, file] of files.entries()) {
        if (isPdf(file)) continue;
        try {
          put(i, { artwork: await uploadArtwork(file, (share) => put(i, { share })) });
        } catch (error) {
          put(i, { error: error instanceof Error ? error : new Error(String(error)) });
        }
      }
    })();
  }, [files, put]);
  const toPolicies = async (index: number) => {
    const entry = imports[index];
    if (!entry) return false;
    try {
      put(index, {
        document: await uploadDocument(entry.file, (share) => put(index, { share })),
        error: null,
      });
      return true;
    } catch (error) {
      put(index, { error: error instanceof Error ? error : new Error(String(error)) });
      return false;
    }
  };
  return { imports, toPolicies };
}
