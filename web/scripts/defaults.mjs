// Writes src/api/defaults.ts: what the core's models are where nobody says otherwise, as the API
// describes them, so that forms start from the core's own values.
import { readFileSync, writeFileSync } from "node:fs";

const MODELS = [
  "BlackRule",
  "ColourDuty",
  "ColourRange",
  "Compression",
  "ConditionTicket",
  "FilmRules",
  "InkRules",
  "MediumSettings",
  "Recipe",
  "Region",
  "Rule",
  "Supplies",
];

const { components } = JSON.parse(readFileSync("../server/openapi.json", "utf8"));
const lines = MODELS.map((name) => {
  const defaults = components.schemas[name]?.["x-defaults"];
  if (!defaults) throw new Error(`The API describes no defaults of ${name}.`);
  const parts = Object.keys(defaults).map((part) => JSON.stringify(part));
  return `  ${name}: ${JSON.stringify(defaults)} as Pick<Schemas["${name}"], ${parts.join(" | ")}>,`;
});
writeFileSync(
  "src/api/defaults.ts",
  [
    "/** Made by scripts/defaults.mjs from the API’s description. */",
    'import type { components } from "./schema";',
    "",
    'type Schemas = components["schemas"];',
    "",
    "/** Models of the core as they are where nobody says otherwise; what must be given is not there. */",
    "export const DEFAULTS = {",
    ...lines,
    "};",
    "",
  ].join("\n"),
);
