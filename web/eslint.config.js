import prettier from "eslint-config-prettier";
import hooks from "eslint-plugin-react-hooks";
import sorted from "eslint-plugin-simple-import-sort";
import tseslint from "typescript-eslint";

/** What may be used by everything above it, whole; from the ground up. */
const GROUND = ["api", "theme", "plots", "queries", "ui"];
/** Features, from the ground up: each is used through its index only. */
const FEATURES = [
  "shell",
  "recipe",
  "viewer",
  "session",
  "reference",
  "conditions",
  "profiles",
  "gamuts",
  "paths",
  "spots",
  "proofs",
  "questions",
  "queue",
  "house",
  "policies",
  "printers",
  "folders",
  "stages",
  "jobs",
];
const ORDER = [...GROUND, ...FEATURES, "app"];

/** Paths to a folder's modules from one or two folders deep. */
const inside = (folder) => [`../${folder}/**`, `../../${folder}/**`];
const whole = (folder) => [`../${folder}`, `../../${folder}`];

const layers = ORDER.map((folder, at) => ({
  files: [`src/${folder}/**/*.{ts,tsx}`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          ...(at + 1 < ORDER.length
            ? [
                {
                  group: ORDER.slice(at + 1).flatMap((f) => [...whole(f), ...inside(f)]),
                  message: `${folder} stands below; what both need belongs further down.`,
                },
              ]
            : []),
          {
            group: FEATURES.filter((f) => f !== folder).flatMap(inside),
            message: "A feature is used through its index.",
          },
        ],
      },
    ],
  },
}));

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.ts", "src/api/defaults.ts"] },
  ...tseslint.configs.strict,
  {
    plugins: { "react-hooks": hooks, sorted },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      "@typescript-eslint/no-explicit-any": "error",
      "sorted/imports": "error",
      "sorted/exports": "error",
    },
  },
  ...layers,
  prettier,
);
