/** How small tables of figures look. */
export const cells = {
  borderCollapse: "collapse",
  fontSize: 12.5,
  "& th": {
    textAlign: "left",
    fontWeight: 600,
    color: "text.secondary",
    pr: 2.5,
    pb: 0.25,
    verticalAlign: "bottom",
  },
  "& td": { pr: 2.5, py: 0.35, borderTop: 1, borderColor: "divider", verticalAlign: "top" },
} as const;

/** How the tables of a library look: one row a thing, the whole width. */
export const library = {
  width: "100%",
  borderCollapse: "collapse",
  fontSize: 13,
  "& th": {
    textAlign: "left",
    fontWeight: 600,
    fontSize: 12,
    color: "text.secondary",
    py: 0.5,
    pr: 1.5,
  },
  "& td": { borderTop: 1, borderColor: "divider", py: 0.6, pr: 1.5, verticalAlign: "top" },
} as const;

/** How lists of what came and what waits look. */
export const list = {
  width: "100%",
  borderCollapse: "collapse",
  fontSize: 12.5,
  bgcolor: "background.paper",
  "& td, & th": {
    borderTop: 1,
    borderColor: "divider",
    px: 1,
    py: 0.6,
    textAlign: "left",
    verticalAlign: "top",
  },
  "& th": { fontWeight: 600, color: "text.secondary", py: 0.35 },
} as const;
