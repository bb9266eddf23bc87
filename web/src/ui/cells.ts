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
