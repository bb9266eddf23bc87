import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";

import type { Folder } from "../api";
import { FolderFiles } from "./FolderFiles";

afterEach(cleanup);

type File = Folder["files"][number];
const file = (part: Partial<File>): File => ({
  id: 1,
  name: "leaf.pdf",
  size: 1_200_000,
  state: "done",
  progress: 1,
  seconds_left: null,
  error: "",
  note: "",
  out_name: "leaf_screen.pdf",
  result_size: 900_000,
  created: "2026-05-04T10:02:00Z",
  finished: null,
  ...part,
});

const became = (name: string) =>
  within(screen.getByRole("row", { name: new RegExp(name) }))
    .getAllByRole("cell")
    .at(-1)?.textContent;

it("says what became of each file", () => {
  render(
    <FolderFiles
      settling={["coming.pdf"]}
      files={[
        file({}),
        file({
          id: 2,
          name: "again.pdf",
          out_name: "",
          note: "The same file came before as leaf.pdf. It was not run again.",
        }),
        file({ id: 3, name: "broken.pdf", state: "failed", error: "It is damaged." }),
        file({ id: 4, name: "slow.pdf", state: "running", progress: 0.3, seconds_left: 20 }),
      ]}
    />,
  );
  expect(became("^leaf.pdf")).toBe("out/leaf_screen.pdf, 0.90 MB");
  expect(became("again.pdf")).toBe("The same file came before as leaf.pdf. It was not run again.");
  expect(became("broken.pdf")).toBe("failed/broken.pdf: It is damaged.");
  expect(became("slow.pdf")).toBe("about 20 s left");
  expect(became("coming.pdf")).toBe("taken when it has stopped growing");
});

it("says that nothing has come", () => {
  render(<FolderFiles settling={[]} files={[]} />);
  expect(screen.getByText("Nothing has come yet.")).toBeTruthy();
});
