import { Box, ButtonBase, Typography } from "@mui/material";

import { useInks } from "../plots";
import { Explained } from "../ui";
import type { Look } from "../viewer";
import { pressPlate } from "./plates";

interface Props {
  names: string[];
  look: Look;
  onLook: (look: Look) => void;
}

/** Every plate alone or any mix, in its ink or as greys; for the eye only. */
export function Plates({ names, look, onLook }: Props) {
  const ink = useInks();
  const alone = look.plates?.length === 1;
  const cell = {
    height: 26,
    minWidth: 30,
    px: 0.5,
    gap: 0.5,
    fontSize: 12,
    fontWeight: 650,
    border: 1,
    borderColor: "text.secondary",
    ml: "-1px",
  };
  const pressed = { bgcolor: "text.primary", color: "background.paper" };
  return (
    <Box
      role="group"
      aria-label="Plates"
      sx={{ display: "flex", flexWrap: "wrap", rowGap: "1px", alignItems: "center", mb: 1 }}
    >
      <Typography sx={{ flex: names.length > 4 ? "1 0 100%" : 1 }}>
        <Explained text="Shows one plate or a mix of them as if only these were printed. The recipe stays.">
          Plates
        </Explained>
      </Typography>
      {names.map((name) => {
        const on = look.plates?.includes(name) ?? false;
        return (
          <ButtonBase
            key={name}
            aria-label={`Plate ${name}`}
            aria-pressed={on}
            onClick={() =>
              onLook({ ...look, map: "", plates: pressPlate(names, look.plates, name) })
            }
            sx={{ ...cell, ...(on && pressed) }}
          >
            <Box
              aria-hidden
              sx={{
                width: 8,
                height: 8,
                bgcolor: ink.colour(name),
                outline: "1px solid",
                outlineColor: "divider",
              }}
            />
            {name}
          </ButtonBase>
        );
      })}
      <ButtonBase
        disabled={!alone}
        aria-pressed={look.grey}
        onClick={() => onLook({ ...look, grey: !look.grey })}
        sx={{ ...cell, ml: 0.5, opacity: alone ? 1 : 0.45, ...(look.grey && alone && pressed) }}
      >
        grey
      </ButtonBase>
    </Box>
  );
}
