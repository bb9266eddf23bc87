import { Box, Button, TextField } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { KindOfWork } from "../api";
import { conditionsQuery } from "../queries/conditions";
import { conditionGroups, Pick, whenEmpty } from "../ui";

interface Props {
  work: readonly KindOfWork[];
  onChange: (work: KindOfWork[]) => void;
}

/** Kinds of work a house does, each with the conditions it goes to unless somebody says otherwise. */
export function KindsOfWork({ work, onChange }: Props) {
  const put = (index: number, kind: Partial<KindOfWork>) =>
    onChange(work.map((k, i) => (i === index ? { ...k, ...kind } : k)));
  const add = () => {
    const names = new Set(work.map((k) => k.name));
    let name = "New kind";
    for (let i = 2; names.has(name); i += 1) name = `New kind ${i}`;
    onChange([...work, { name, conditions: [] }]);
  };
  return (
    <>
      <Box
        component="ul"
        aria-label="Kinds of work"
        sx={{ listStyle: "none", m: 0, mt: 0.5, p: 0 }}
      >
        {work.map((kind, i) => (
          <Kind
            key={kind.name}
            kind={kind}
            onChange={(part) => put(i, part)}
            onRemove={() => onChange(work.filter((k) => k !== kind))}
          />
        ))}
      </Box>
      <Button onClick={add}>Add a kind of work</Button>
    </>
  );
}

interface KindProps {
  kind: KindOfWork;
  onChange: (part: Partial<KindOfWork>) => void;
  onRemove: () => void;
}

function Kind({ kind, onChange, onRemove }: KindProps) {
  const conditions = useQuery(conditionsQuery);
  const [name, setName] = useState(kind.name);
  const going = kind.conditions ?? [];
  const nameOf = (key: string) => conditions.data?.find((c) => c.key === key)?.name;
  const others = (conditions.data ?? []).filter((c) => !going.includes(c.key));
  return (
    <Box
      component="li"
      aria-label={kind.name}
      sx={{
        borderTop: 1,
        borderColor: "divider",
        py: 0.75,
        display: "grid",
        gridTemplateColumns: "150px minmax(0, 1fr) auto",
        columnGap: 1.5,
        alignItems: "start",
      }}
    >
      <TextField
        value={name}
        onChange={(e) => setName(e.target.value)}
        onBlur={() => name.trim() && name !== kind.name && onChange({ name: name.trim() })}
        slotProps={{ htmlInput: { maxLength: 60, "aria-label": "Name of the kind of work" } }}
      />
      <Box sx={{ display: "flex", alignItems: "center", gap: 0.75, flexWrap: "wrap" }}>
        {going.map((key) => (
          <Button
            key={key}
            aria-label={`Take ${nameOf(key) ?? key} out of ${kind.name}`}
            onClick={() => onChange({ conditions: going.filter((k) => k !== key) })}
          >
            {nameOf(key) ?? whenEmpty(conditions, `${key}, not known here`)} ×
          </Button>
        ))}
        <Pick
          label={`Another condition for ${kind.name}`}
          width={160}
          value=""
          prompt={whenEmpty(conditions, going.length ? "and to…" : "goes to…")}
          options={[]}
          groups={conditionGroups(others, (c) => c.key)}
          onChange={(key) => onChange({ conditions: [...going, key] })}
        />
      </Box>
      <Button onClick={onRemove}>Remove</Button>
    </Box>
  );
}
