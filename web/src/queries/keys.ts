/** Names under which answers are kept; what changes something makes its name stale. */
export const keys = {
  session: ["session"],
  jobs: ["jobs"],
  conditions: ["conditions"],
  profiles: ["profiles"],
  tables: ["tables"],
  inkRules: ["ink-rules"],
  houseRules: ["house-rules"],
  policies: ["policies"],
  documents: ["documents"],
  printers: ["printers"],
  folders: ["folders"],
  queue: ["queue"],
  methods: ["methods"],
  gamuts: ["gamuts"],
  swatches: ["swatch-lists"],
  paths: ["colour-paths"],
} as const;
