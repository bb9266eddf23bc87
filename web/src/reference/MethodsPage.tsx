import { Box, Typography } from "@mui/material";
import { queryOptions, useQuery } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { useNavigate, useParams } from "react-router";

import { api, ask } from "../api";
import { keys } from "../queries/keys";
import { Shell } from "../shell";
import { Notice, SideList, whenEmpty } from "../ui";

const Markdown = lazy(() => import("./Markdown"));

const methodsQuery = queryOptions({
  queryKey: keys.methods,
  queryFn: () => ask(api.GET("/api/methods")),
  staleTime: Infinity,
});

/** How every figure is computed, from which source, and how accurate it was measured to be. */
export function MethodsPage() {
  const { name } = useParams();
  const navigate = useNavigate();
  const methods = useQuery(methodsQuery);
  const rows = methods.data ?? [];
  const index = Math.max(
    0,
    rows.findIndex((m) => m.name === name),
  );
  const shown = rows[index];
  return (
    <Shell title="Methods" detail={shown?.title}>
      {methods.error && <Notice problem={methods.error} onRetry={() => void methods.refetch()} />}
      <Box sx={{ display: "grid", gridTemplateColumns: "240px minmax(0, 1fr)", height: "100%" }}>
        <Box sx={{ borderRight: 1, borderColor: "divider", overflow: "auto" }}>
          <SideList
            label="Methods"
            shown={index}
            onOpen={(i) => void navigate(`/methods/${rows[i]?.name}`)}
            empty={whenEmpty(methods, "No methods are here.")}
            rows={rows.map((m, i) => ({ id: i, name: m.title, fact: "" }))}
          />
        </Box>
        <Box sx={{ overflow: "auto", p: 3 }}>
          <Box
            sx={{
              maxWidth: 860,
              "& table": { borderCollapse: "collapse", my: 1.5 },
              "& td, & th": {
                border: 1,
                borderColor: "divider",
                px: 1,
                py: 0.5,
                textAlign: "left",
                verticalAlign: "top",
              },
              "& h1": { fontSize: 20 },
              "& h2": { fontSize: 15 },
              "& li": { mb: 0.5 },
            }}
          >
            {shown && (
              <Suspense fallback={<Typography>Reading…</Typography>}>
                <Markdown text={shown.text} />
              </Suspense>
            )}
          </Box>
        </Box>
      </Box>
    </Shell>
  );
}
