import { act, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { expect, it } from "vitest";

import { useAddress } from "./useAddress";

function Page() {
  const [params, write] = useAddress();
  const put = (key: string, value: string) =>
    write((now) => {
      const next = new URLSearchParams(now);
      next.set(key, value);
      return next;
    });
  return (
    <>
      <output>{params.toString()}</output>
      <button
        onClick={() => {
          put("first", "1");
          put("second", "2");
        }}
      >
        both
      </button>
      <button onClick={() => put("first", "3")}>again</button>
    </>
  );
}

it("keeps both of two changes made before anything was drawn", () => {
  render(
    <MemoryRouter>
      <Page />
    </MemoryRouter>,
  );
  act(() => screen.getByText("both").click());
  expect(screen.getByRole("status").textContent).toBe("first=1&second=2");
  act(() => screen.getByText("again").click());
  expect(screen.getByRole("status").textContent).toBe("first=3&second=2");
});
