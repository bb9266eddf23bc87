import { Box, LinearProgress, Typography } from "@mui/material";
import { useState } from "react";

interface Props {
  src: string;
  label: string;
}

/** A picture of a page in a neutral surround; says why where it cannot be drawn. */
export function PagePicture({ src, label }: Props) {
  const [failed, setFailed] = useState<{ src: string; text: string } | null>(null);
  const [drawn, setDrawn] = useState("");
  const explain = async () => {
    const problem = (await fetch(src)
      .then((a) => a.json())
      .catch(() => null)) as { title?: string } | null;
    setFailed({ src, text: problem?.title ?? "This page could not be drawn." });
  };
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography component="figcaption" variant="body2" sx={{ fontWeight: 650, mb: 0.25 }}>
        {label}
      </Typography>
      <Box
        sx={{
          bgcolor: "#777777",
          height: "min(70vh, 1000px)",
          minHeight: 380,
          position: "relative",
          display: "flex",
          alignItems: "center",
          justifyContent: "center",
          p: 2,
        }}
      >
        {drawn !== src && failed?.src !== src && (
          <LinearProgress
            aria-label={`Drawing: ${label}`}
            sx={{ position: "absolute", top: 0, left: 0, right: 0 }}
          />
        )}
        {failed?.src === src ? (
          <Typography role="alert" sx={{ bgcolor: "background.paper", p: 1.5 }}>
            {failed.text}
          </Typography>
        ) : (
          <img
            src={src}
            alt={label}
            style={{ maxWidth: "100%", maxHeight: "100%", display: "block" }}
            onLoad={() => setDrawn(src)}
            onError={() => void explain()}
          />
        )}
      </Box>
    </Box>
  );
}
