import { Box, Button, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { whereQuery } from "../queries/gamuts";
import { labText, Notice, number } from "../ui";

interface Props {
  job: number;
  lab: [number, number, number];
  onClose: () => void;
}

/** Where in a picture the colour that was clicked is: it stays in colour, all else is pale grey. */
export function WhereInPicture({ job, lab, onClose }: Props) {
  const found = useQuery({ ...whereQuery(job, lab), placeholderData: keepPreviousData });
  return (
    <Box role="group" aria-label="Where it is in the picture" sx={{ mt: 1.5 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Where {labText(lab)} is in the picture
        </Typography>
        <Button onClick={onClose}>Close</Button>
      </Box>
      {found.error && <Notice problem={found.error} onRetry={() => void found.refetch()} />}
      {found.data && (
        <>
          <Typography data-explained="">
            {found.data.share > 0
              ? `${number(found.data.share * 100)} % of it lies within 6 ΔE00, and stays in colour.`
              : "None of it lies within 6 ΔE00."}
          </Typography>
          <Box
            component="img"
            alt={`The picture, ${number(found.data.share * 100)} % of it in colour`}
            src={`data:image/png;base64,${found.data.png}`}
            sx={{
              display: "block",
              mt: 1,
              p: 2,
              bgcolor: "#c6c6c6",
              width: found.data.width * 1.5,
              maxWidth: "100%",
            }}
          />
        </>
      )}
    </Box>
  );
}
