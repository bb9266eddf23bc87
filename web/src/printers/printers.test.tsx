import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { api, DEFAULTS, type Judgement, type Medium } from "../api";
import { said } from "../api/said";
import type { Leaving } from "../ui";
import { MediumEditor } from "./MediumEditor";
import { RouteLine } from "./RouteLine";
import { changeOf, NEW_SETTINGS, settingFacts } from "./words";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const FINE: Judgement[] = [{ level: "fine", reason: said("Colour is managed once, by Plinto.") }];
const TWICE: Judgement[] = [
  {
    level: "refuse",
    reason: said("Colour would be managed twice.", "Switch it off in the RIP."),
  },
];

describe("the way of a file", () => {
  it("shows what each place does, and that it is fine", () => {
    render(
      <RouteLine
        duty={{ ...DEFAULTS.ColourDuty, manager: "plinto", driver: "absent", rip: "off" }}
        converts
        policy="Strict press"
        end="Newsprint"
        judgements={FINE}
        mirrors={false}
        settings={NEW_SETTINGS}
      />,
    );
    const way = screen.getByRole("group", { name: "Who manages colour and mirrors" });
    expect(way.textContent).toContain("converts: Strict press");
    expect(way.textContent).toContain("RIPcolour management off");
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("alerts with reason and remedy where the guard refuses", () => {
    render(
      <RouteLine
        duty={{ ...DEFAULTS.ColourDuty, manager: "plinto", driver: "off", rip: "on" }}
        converts
        policy="Strict press"
        end="Newsprint"
        judgements={TWICE}
        mirrors={false}
        settings={NEW_SETTINGS}
      />,
    );
    expect(screen.getByRole("alert").textContent).toBe(
      "Refused: Colour would be managed twice. Switch it off in the RIP.",
    );
  });

  it("shows a driver that cannot be switched off, and one that belongs to the printer", () => {
    const duty = { ...DEFAULTS.ColourDuty, driver: "always" as const, measured_through: true };
    render(
      <RouteLine
        duty={duty}
        converts
        policy="To the exposure"
        end="Photo paper"
        judgements={FINE}
        mirrors={false}
        settings={NEW_SETTINGS}
      />,
    );
    expect(
      screen.getByRole("group", { name: "Who manages colour and mirrors" }).textContent,
    ).toContain("Driverconverts, cannot be switched off, measured through it");
  });

  it("says when Plinto only passes files on", () => {
    render(
      <RouteLine
        duty={{ ...DEFAULTS.ColourDuty, manager: "rip", driver: "absent", rip: "on" }}
        converts={false}
        policy=""
        end="Newsprint"
        judgements={[]}
        mirrors
        settings={{ ...NEW_SETTINGS, mirror: true }}
      />,
    );
    expect(screen.getByRole("group").textContent).toContain("passes files on");
    expect(screen.getByRole("group").textContent?.match(/mirrors/g)).toHaveLength(1);
    expect(screen.getByRole("group").textContent).toContain("Newsprint, mirrored");
  });
});

const factsOf = (...given: Parameters<typeof settingFacts>) =>
  new Map(settingFacts(...given).map(([name, value]) => [name, value]));

describe("what the operator sets", () => {
  it("is said with its units, absent things in words", () => {
    const facts = factsOf(
      {
        ...NEW_SETTINGS,
        feed: -0.2,
        heat: 195,
        drying_minutes: 10,
        platen_gap: 1.8,
        roll_width: 1620,
        roll_length: 100,
      },
      2.407,
    );
    expect(facts.get("Feed")).toBe("−0.2 %");
    expect(facts.get("Heat")).toBe("195 °C");
    expect(facts.get("Drying")).toBe("10 min");
    expect(facts.get("Platen gap")).toBe("1.8 mm");
    expect(facts.get("Roll")).toBe("1620 mm wide, 100 m long");
    expect(facts.get("Medium")).toBe("2.41 EUR a m²");
    const bare = factsOf(NEW_SETTINGS, null);
    expect(bare.get("Heat")).toBe("off");
    expect(bare.has("Roll")).toBe(false);
  });
});

describe("the editor of a medium", () => {
  const medium = {
    id: 3,
    name: "Gloss",
    condition: 1,
    policy: null,
    duty: { manager: "plinto", driver: "off", rip: "off" },
    settings: NEW_SETTINGS,
  } as unknown as Medium;
  const judged = vi.fn();
  beforeEach(() => {
    judged
      .mockReset()
      .mockImplementation((body: { duty: { rip: string } }) =>
        body.duty.rip === "on" ? TWICE : FINE,
      );
    vi.spyOn(api, "GET").mockImplementation((async () => ({
      data: [],
      response: new Response(),
    })) as never);
    vi.spyOn(api, "POST").mockImplementation((async (_: string, { body }: { body: never }) => ({
      data: judged(body),
      response: new Response(),
    })) as never);
  });

  const leaving: Leaving = { current: null };
  const edit = (onKeep = vi.fn()) => {
    const element = (
      <QueryClientProvider client={new QueryClient()}>
        <MediumEditor
          start={changeOf(medium)}
          error={null}
          onKeep={onKeep}
          onAnyway={() => undefined}
          onClose={() => undefined}
          leaving={leaving}
        />
      </QueryClientProvider>
    );
    render(<RouterProvider router={createMemoryRouter([{ path: "/", element }])} />);
    return onKeep;
  };

  it("asks the guard anew with every change", async () => {
    edit();
    const guard = screen.getByRole("status", { name: "The guard" });
    await waitFor(() => expect(guard.textContent).toContain("managed once"));
    fireEvent.change(screen.getByLabelText("Colour in the RIP"), { target: { value: "on" } });
    await waitFor(() =>
      expect(within(guard).getByText(/managed twice/).textContent).toContain("Refused:"),
    );
  });

  it("keeps what was typed, numbers within their limits", async () => {
    const onKeep = edit();
    const heat = screen.getByLabelText("Heat");
    fireEvent.change(heat, { target: { value: "900" } });
    fireEvent.blur(heat);
    fireEvent.click(screen.getByRole("button", { name: "Keep the medium" }));
    await waitFor(() =>
      expect(onKeep.mock.lastCall?.[0]).toMatchObject({ name: "Gloss", settings: { heat: 300 } }),
    );
  });

  it("asks before a changed medium is left for another, and goes on only when told to", () => {
    edit();
    const go = vi.fn();
    act(() => leaving.current?.(go));
    expect(go).toHaveBeenCalledTimes(1);
    fireEvent.change(screen.getByLabelText("Name of the medium"), { target: { value: "Matt" } });
    act(() => leaving.current?.(go));
    expect(screen.getByText("The medium was changed and is not kept yet.")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Stay here" }));
    expect(go).toHaveBeenCalledTimes(1);
    act(() => leaving.current?.(go));
    fireEvent.click(screen.getByRole("button", { name: "Leave without it" }));
    expect(go).toHaveBeenCalledTimes(2);
  });

  it("keeps nothing without a name, and says so", async () => {
    const onKeep = edit();
    fireEvent.change(screen.getByLabelText("Name of the medium"), { target: { value: " " } });
    fireEvent.click(screen.getByRole("button", { name: "Keep the medium" }));
    expect(await screen.findByText("A medium needs a name.")).toBeTruthy();
    expect(onKeep).not.toHaveBeenCalled();
  });
});
