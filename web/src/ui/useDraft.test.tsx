import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";

import { ProblemError } from "../api";
import { Form, FormEnd, FormLine, useDraft } from ".";

afterEach(cleanup);

interface Named {
  [part: string]: unknown;
  name: string;
  note: string;
}

function Example({
  onKeep,
  problem = null,
  onMine,
  onEscape,
}: {
  onKeep: (draft: Named) => unknown;
  problem?: Error | null;
  onMine?: (draft: Named) => void;
  onEscape?: () => void;
}) {
  const form = useDraft<Named>({ name: "Coated", note: "" }, onKeep, ({ name }) =>
    name.trim() ? {} : { name: "A name is needed." },
  );
  return (
    <Form
      of={form}
      label="Example"
      problem={problem}
      {...(onMine && { onMine, onTheirs: () => undefined })}
      {...(onEscape && { onEscape })}
    >
      <FormLine of={form} name="name" label="Name" />
      <FormLine of={form} name="note" label="Note" />
      <output>{form.changed ? "changed" : "as it was"}</output>
      <FormEnd keep="Keep it" />
    </Form>
  );
}

const name = () => screen.getByLabelText<HTMLInputElement>("Name");
const type = (field: HTMLElement, value: string) => fireEvent.change(field, { target: { value } });
const refused = (errors: { field: string; message: string }[], fields: never[] = []) =>
  new ProblemError({ status: 400, code: "x", title: "Refused.", remedy: "", fields, errors });

describe("a form", () => {
  it("keeps the whole draft once, by Enter as by its button", async () => {
    const keep = vi.fn();
    render(<Example onKeep={keep} />);
    expect(screen.getByRole("status").textContent).toBe("as it was");
    type(name(), "Uncoated");
    expect(screen.getByRole("status").textContent).toBe("changed");
    fireEvent.submit(screen.getByRole("form", { name: "Example" }));
    await waitFor(() => expect(keep).toHaveBeenCalledTimes(1));
    expect(keep).toHaveBeenCalledWith({ name: "Uncoated", note: "" });
  });

  it("says what is missing beside the field and sends nothing", async () => {
    const keep = vi.fn();
    render(<Example onKeep={keep} />);
    type(name(), " ");
    expect(screen.queryByRole("alert")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Keep it" }));
    expect((await screen.findByRole("alert")).textContent).toBe("A name is needed.");
    expect(name().getAttribute("aria-invalid")).toBe("true");
    expect(keep).not.toHaveBeenCalled();
    type(name(), "Again");
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
  });

  it("says it when the field is left, too", async () => {
    render(<Example onKeep={() => undefined} />);
    type(name(), "");
    fireEvent.blur(name());
    expect((await screen.findByRole("alert")).textContent).toBe("A name is needed.");
  });

  it("puts what the server has against a field beside it", async () => {
    const error = refused([
      { field: "name", message: "There is one of that name." },
      { field: "elsewhere", message: "Not of this form." },
    ]);
    const { rerender } = render(<Example onKeep={() => Promise.reject(error)} />);
    fireEvent.submit(screen.getByRole("form"));
    expect((await screen.findByRole("alert")).textContent).toBe("There is one of that name.");
    rerender(<Example onKeep={() => Promise.reject(error)} problem={error} />);
    expect(screen.getAllByRole("alert")).toHaveLength(1);
  });

  it("shows the rest of what goes wrong above the fields", () => {
    render(<Example onKeep={() => undefined} problem={refused([])} />);
    expect(screen.getByRole("alert").textContent).toContain("Refused.");
  });

  it("asks whose it is where two changed the same", () => {
    const mine = vi.fn();
    const clash = [{ field: "name", theirs: "A", yours: "B" }] as never[];
    render(<Example onKeep={() => undefined} problem={refused([], clash)} onMine={mine} />);
    fireEvent.click(screen.getByRole("button", { name: /Keep mine|mine/i }));
    expect(mine).toHaveBeenCalledWith({ name: "Coated", note: "" });
  });

  it("is left by Escape where it can be", () => {
    const leave = vi.fn();
    render(<Example onKeep={() => undefined} onEscape={leave} />);
    fireEvent.keyDown(name(), { key: "Escape" });
    expect(leave).toHaveBeenCalledTimes(1);
  });
});
