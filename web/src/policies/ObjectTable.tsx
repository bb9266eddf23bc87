import { Box, ButtonBase, Typography } from "@mui/material";
import { useMemo, useState } from "react";

import type { PolicyObject } from "../api";
import { Explained, Pick } from "../ui";
import type { Spotted } from "./PagePreview";
import { ACTIONS, after, before } from "./words";

interface Props {
  objects: PolicyObject[];
  /** Of the destination, in the order of what comes out. */
  inks?: readonly string[];
  chosen: Spotted | null;
  onChoose: (object: PolicyObject) => void;
}

type Key = "page" | "kind" | "space" | "ppi" | "rule" | "de00" | "tac";
const KINDS = ["every kind", "image", "text", "vector", "shading", "group"];
const SHOWN = 300;
const FIGURES = {
  page: "object_page",
  kind: "objects",
  space: "object_values",
  ppi: "object_pixels",
  rule: "rule_number",
  de00: "object_de00",
  tac: "object_tac",
} as const;

const value = (o: PolicyObject, key: Key): string | number =>
  key === "kind"
    ? o.kind
    : key === "space"
      ? o.family
      : key === "ppi"
        ? (o.ppi ?? -1)
        : key === "tac"
          ? (o.tac_after ?? -1)
          : key === "de00"
            ? (o.de00 ?? -1)
            : o[key];

/** Every object with its rule, before and after; sorted, filtered, and clicked to be marked. */
export function ObjectTable({ objects, inks = [], chosen, onChoose }: Props) {
  const [sort, setSort] = useState<Key>("page");
  const [down, setDown] = useState(false);
  const [kind, setKind] = useState(KINDS[0] ?? "");
  const rows = useMemo(() => {
    const kept = objects.filter((o) => kind === KINDS[0] || o.kind === kind);
    const sorted = [...kept].sort((a, b) =>
      value(a, sort) < value(b, sort) ? -1 : value(a, sort) > value(b, sort) ? 1 : 0,
    );
    return down ? sorted.reverse() : sorted;
  }, [objects, sort, down, kind]);
  const head = (key: Key, label: string, right = false) => (
    <th
      style={{ textAlign: right ? "right" : "left" }}
      aria-sort={sort === key ? (down ? "descending" : "ascending") : "none"}
    >
      <ButtonBase
        onClick={() => {
          setDown(sort === key && !down);
          setSort(key);
        }}
        sx={{ fontSize: 12, fontWeight: sort === key ? 750 : 600 }}
      >
        <Explained of={FIGURES[key]} focus={false}>
          {label}
        </Explained>
      </ButtonBase>
    </th>
  );
  return (
    <Box>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.5, mb: 0.5 }}>
        <Typography variant="h2">Objects</Typography>
        <Pick
          label="Kind of object"
          value={kind}
          options={KINDS.map((k): [string, string] => [k, k])}
          onChange={setKind}
        />
        <Typography variant="body2" color="text.secondary" data-explained="objects">
          {rows.length > SHOWN ? `first ${SHOWN} of ${rows.length}` : rows.length}
        </Typography>
      </Box>
      <Box
        component="table"
        aria-label="Objects"
        sx={{
          width: "100%",
          borderCollapse: "collapse",
          bgcolor: "background.paper",
          fontSize: 12,
          "& td, & th": {
            borderTop: 1,
            borderColor: "divider",
            px: 0.75,
            py: 0.4,
            whiteSpace: "nowrap",
          },
          "& tbody tr": { cursor: "pointer", "&:focus-visible": { outlineOffset: "-2px" } },
        }}
      >
        <thead>
          <tr>
            {head("page", "Page")}
            {head("kind", "Object")}
            {head("space", "Space, profile")}
            {head("ppi", "Pixels, resolution")}
            {head("rule", "Rule")}
            <th style={{ textAlign: "left" }}>
              <Explained of="object_values">Before</Explained>
            </th>
            <th style={{ textAlign: "left" }}>
              <Explained of="object_values">After</Explained>
            </th>
            {head("de00", "ΔE00", true)}
            {head("tac", "TAC", true)}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, SHOWN).map((o, i) => (
            <Box
              component="tr"
              key={i}
              tabIndex={0}
              aria-selected={o === chosen}
              onClick={() => onChoose(o)}
              onKeyDown={(e) => {
                if (e.key === "Enter") onChoose(o);
              }}
              sx={{
                ...(o === chosen && { bgcolor: "action.selected", fontWeight: 700 }),
                ...(o.action === "stop" && { fontWeight: 700 }),
              }}
            >
              <td>{o.page}</td>
              <td title={o.notes.map((n) => n.text).join(" ")}>
                {o.kind}
                {o.count > 1 ? ` × ${o.count}` : ""}
              </td>
              <td>
                {o.spot.length ? `spot, ${o.spot.join(", ")}` : o.family}
                {o.profile
                  ? `, ${o.profile}`
                  : o.origin && o.origin !== "document"
                    ? `, ${o.origin}`
                    : ""}
              </td>
              <td>
                {o.pixels
                  ? `${o.pixels.join(" × ")} px${o.ppi ? `, ${o.ppi.toFixed(0)} ppi` : ""}${o.new_ppi ? ` → ${o.new_ppi.toFixed(0)}` : ""}`
                  : "–"}
              </td>
              <td>
                {o.rule ? `${o.rule}, ` : ""}
                {ACTIONS[o.action as keyof typeof ACTIONS].toLowerCase()}
              </td>
              <td>{before(o)}</td>
              <td>{after(o, inks)}</td>
              <td style={{ textAlign: "right" }}>{o.de00?.toFixed(1) ?? "–"}</td>
              <td style={{ textAlign: "right" }}>{o.tac_after?.toFixed(0) ?? "–"}</td>
            </Box>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
