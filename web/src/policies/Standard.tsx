import { Box, InputBase, Typography } from "@mui/material";
import { useId } from "react";

import type { OutputPolicy } from "../api";
import { Explained } from "../ui";
import { ChoiceRow, Toggle } from "../ui/controls";
import { PDFX } from "./words";

interface Props {
  policy: OutputPolicy;
  set: (part: Partial<OutputPolicy>) => void;
}

/** The part of PDF/X that results are made for or checked against, and the condition they name. */
export function Standard({ policy, set }: Props) {
  return (
    <>
      <ChoiceRow
        label="PDF/X"
        help="The part of ISO 15930 that documents are checked against, as they come and as they go out."
        value={policy.pdfx ?? "none"}
        options={PDFX}
        onChange={(pdfx) => set({ pdfx, ...(pdfx === "none" && { pdfx_made: false }) })}
      />
      {policy.pdfx !== "none" && (
        <Toggle
          label="Results made for it"
          checked={policy.pdfx_made ?? false}
          onChange={(pdfx_made) => set({ pdfx_made })}
          help="What can be set without changing the print is set: version, title, dates, trapping, trim boxes. The result is marked only where nothing is found that breaks the part."
        />
      )}
      {policy.output_intent && (
        <>
          <Line
            label="Condition's name"
            help="The printing condition as the output intent names it. Empty: as the document's own intent does where it has the same profile, else as the profile says."
            value={policy.condition ?? ""}
            onChange={(condition) => set({ condition, ...(!condition && { registry: "" }) })}
          />
          {policy.condition && (
            <Line
              label="Its registry"
              help="The address of the registry that knows the name; empty where none does."
              value={policy.registry ?? ""}
              onChange={(registry) => set({ registry })}
            />
          )}
        </>
      )}
    </>
  );
}

interface LineProps {
  label: string;
  help: string;
  value: string;
  onChange: (value: string) => void;
}

function Line({ label, help, value, onChange }: LineProps) {
  const id = useId();
  return (
    <Box sx={{ display: "flex", alignItems: "center", minHeight: 30, gap: 1 }}>
      <Typography component="label" htmlFor={id} sx={{ flex: 1 }}>
        <Explained text={help}>{label}</Explained>
      </Typography>
      <InputBase
        id={id}
        value={value}
        placeholder="as it is known"
        inputProps={{ maxLength: 200 }}
        onChange={(e) => onChange(e.target.value)}
        sx={{ width: 150, fontSize: 13, borderBottom: 1, borderColor: "text.secondary" }}
      />
    </Box>
  );
}
