import { expect, it } from "vitest";

import { whenEmpty } from "./whenEmpty";

it("calls nothing empty before it is known", () => {
  const said = (isPending: boolean, isError: boolean) =>
    whenEmpty({ isPending, isError }, "No printer yet.");
  expect(said(true, false)).toBe("Reading…");
  expect(said(false, true)).toBe("This could not be read.");
  expect(said(false, false)).toBe("No printer yet.");
});
