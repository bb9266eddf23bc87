import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";

import { Evenness } from "./Evenness";

afterEach(cleanup);

it.each([
  [
    0,
    1.1,
    "The greys run evenly: black falls back by 0.0 %, its largest step is 1.1 %, of any ink 1.4 %.",
  ],
  [
    2,
    2.5,
    "The greys run evenly: black falls back by 2.0 %, its largest step is 2.5 %, of any ink 1.4 %.",
  ],
  [
    2.1,
    1,
    "The greys run unevenly: black falls back by 2.1 %, its largest step is 1.0 %, of any ink 1.4 %.",
  ],
  [
    0,
    2.6,
    "The greys run unevenly: black falls back by 0.0 %, its largest step is 2.6 %, of any ink 1.4 %.",
  ],
])("tells greys with black back %d and steps of %d", (black_back, black_step, told) => {
  render(<Evenness greys={{ black_back, black_step, step: 1.4, bend: 0.3 }} />);
  expect(screen.getByTestId("evenness").textContent).toBe(told);
});
