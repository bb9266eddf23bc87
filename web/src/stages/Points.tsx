import { Box, Button, ButtonBase, InputBase, Link, Typography } from "@mui/material";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Fragment, useRef, useState } from "react";
import { Link as RouterLink } from "react-router";

import { api, ask, type Job, type Point, type Readout } from "../api";
import { keys } from "../queries/keys";
import { uploadTargets } from "../queries/upload";
import { Explained, Notice } from "../ui";
import { Section } from "../ui/controls";
import { FileInput } from "../ui/FileInput";
import { useTool } from "../viewer";
import type { StageProps } from "./StageRail";

const MOST = 20;

/** Sample points that stay: their numbers follow every change. */
export function Points({ job, destination, control }: StageProps) {
  const client = useQueryClient();
  const { start } = useTool();
  const [named, setNamed] = useState<[number, string] | null>(null);
  const [wanting, setWanting] = useState(false);
  const chosen = useRef<HTMLInputElement>(null);
  const { points } = job;
  const wanted = wanting || points.some((p) => p.target);
  const taken = (changed: Job) => client.setQueryData<Job>([...keys.jobs, job.id], changed);
  const put = useMutation({
    mutationFn: (next: Point[]) =>
      ask(api.PUT("/api/jobs/{id}/points", { params: { path: { id: job.id } }, body: next })),
    onSuccess: taken,
  });
  const readIn = useMutation({
    mutationFn: (file: File) => uploadTargets(job.id, file),
    onSuccess: taken,
  });
  const problem = put.error ?? readIn.error;
  const readings = useQuery({
    queryKey: [...keys.points, destination.id, JSON.stringify(points), control.colours],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/destinations/{id}/points", {
          signal,
          params: { path: { id: destination.id }, query: { changes: control.colours } },
        }),
      ),
    enabled: points.length > 0,
    placeholderData: keepPreviousData,
  });
  const place = () =>
    start({
      kind: "point",
      onDone: ([at]) =>
        at &&
        put.mutate([
          ...points,
          { name: "", x: Math.floor(at[0]), y: Math.floor(at[1]), target: "" },
        ]),
    });
  const rename = () => {
    if (named) put.mutate(points.map((p, i) => (i === named[0] ? { ...p, name: named[1] } : p)));
    setNamed(null);
  };
  const file = (kind: string) =>
    `/api/destinations/${destination.id}/swatches.${kind}?changes=${encodeURIComponent(control.colours)}`;
  return (
    <Section
      title="Sample points"
      fact={points.length ? `${points.length} of ${MOST}` : "none"}
      open={points.length > 0}
    >
      {points.length > 0 && (
        <Box
          component="table"
          aria-label="Sample points"
          sx={{
            width: "100%",
            borderCollapse: "collapse",
            fontSize: 11.5,
            lineHeight: "16px",
            "& td, & th": { p: 0, textAlign: "right", fontWeight: 400 },
            "& th": { color: "text.secondary" },
            "& tr > :first-of-type": { textAlign: "left" },
          }}
        >
          <thead>
            <tr>
              <th>Point</th>
              <th>
                <Explained of="lab">L*</Explained>
              </th>
              <th>a*</th>
              <th>b*</th>
              <th>
                <Explained of="tac">TAC</Explained>
              </th>
              <th>
                <Explained of="de00">ΔE</Explained>
              </th>
              <th />
            </tr>
          </thead>
          <tbody>
            {points.map((p, i) => {
              const r = readings.data?.[i];
              return (
                <Fragment key={`${i}-${p.x}-${p.y}`}>
                  <tr>
                    <td>
                      <InputBase
                        value={named?.[0] === i ? named[1] : p.name}
                        placeholder={`Point ${i + 1}`}
                        inputProps={{ "aria-label": `Name of point ${i + 1}`, maxLength: 60 }}
                        onChange={(e) => setNamed([i, e.target.value])}
                        onBlur={rename}
                        onKeyDown={(e) => {
                          if (e.key === "Enter") rename();
                        }}
                        sx={{
                          width: 62,
                          fontSize: 11.5,
                          "& input": { p: 0, "&::placeholder": { opacity: 0.8 } },
                        }}
                      />
                    </td>
                    {r ? (
                      r.print_lab.map((v, k) => (
                        <td key={k} data-explained="lab">
                          {v.toFixed(0).replace("-", "−")}
                        </td>
                      ))
                    ) : (
                      <td colSpan={3}>…</td>
                    )}
                    <td data-explained="tac">{r?.tac.toFixed(0)}</td>
                    <td data-explained="de00">
                      <b>{r?.de00.toFixed(1)}</b>
                    </td>
                    <td>
                      <ButtonBase
                        aria-label={`Remove point ${i + 1}`}
                        onClick={() => put.mutate(points.filter((_, k) => k !== i))}
                        sx={{ fontSize: 12, width: 18 }}
                      >
                        ×
                      </ButtonBase>
                    </td>
                  </tr>
                  {wanted && (
                    <tr>
                      <td colSpan={7}>
                        <Wanted
                          number={i + 1}
                          point={p}
                          reading={r}
                          onWant={(target, done) =>
                            put.mutate(
                              points.map((q, k) => (k === i ? { ...q, target } : q)),
                              { onSuccess: done },
                            )
                          }
                        />
                      </td>
                    </tr>
                  )}
                </Fragment>
              );
            })}
          </tbody>
        </Box>
      )}
      {points.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          Lab in print, total ink in %, ΔE00 to the original.
        </Typography>
      )}
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.25, mt: 0.75 }}>
        <Button disabled={points.length >= MOST} onClick={place}>
          Place a point…
        </Button>
        {points.length > 0 && (
          <Typography variant="body2">
            Swatch list:{" "}
            <Link href={file("csv")} download color="inherit">
              CSV
            </Link>
            ,{" "}
            <Link href={file("txt")} download color="inherit">
              CGATS
            </Link>
          </Typography>
        )}
      </Box>
      {points.length > 0 && (
        <Box sx={{ display: "flex", gap: 1, mt: 0.75 }}>
          {!wanted && <Button onClick={() => setWanting(true)}>Colours wanted…</Button>}
          {wanted && (
            <Button onClick={() => chosen.current?.click()}>Wanted colours from a file…</Button>
          )}
          <FileInput
            ref={chosen}
            label="List of wanted colours"
            accept=".txt,.csv,.cxf,.it8,.cgats"
            onFiles={([file]) => file && readIn.mutate(file)}
          />
        </Box>
      )}
      {problem && <Notice problem={problem} />}
    </Section>
  );
}

interface WantedProps {
  number: number;
  point: Point;
  reading: Readout | undefined;
  /** done : called once it is kept; what is no colour stays as typed. */
  onWant: (target: string, done: () => void) => void;
}

/** The colour wanted at a point, and how the print misses it. */
function Wanted({ number, point, reading, onWant }: WantedProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const told = point.target ? reading?.target : null;
  const rest = () => {
    const done = () => setTyped(null);
    if (typed === null || typed.trim() === point.target) done();
    else onWant(typed.trim(), done);
  };
  return (
    <Box sx={{ pl: 1, py: 0.5, display: "flex", flexWrap: "wrap", columnGap: 1 }}>
      <span>wanted</span>
      <InputBase
        value={typed ?? point.target}
        placeholder="L* a* b*, or #rrggbb"
        inputProps={{ "aria-label": `Colour wanted at point ${number}`, maxLength: 80 }}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={rest}
        onKeyDown={(e) => {
          if (e.key === "Enter") rest();
          if (e.key === "Escape") setTyped(null);
        }}
        sx={{ flex: "1 1 150px", fontSize: 11.5, "& input": { p: 0 } }}
      />
      {told && (
        <Box component="span" data-testid={`miss-${number}`} data-explained="de00">
          <b>ΔE {told.de00.toFixed(1)}</b>, {told.way}
        </Box>
      )}
      {reading && (
        <Link component={RouterLink} color="inherit" to={everywhere(point, reading)}>
          on every condition
        </Link>
      )}
    </Box>
  );
}

/** Where the wanted colour, else the original's, is tried on all conditions. */
function everywhere({ target }: Point, { lab, target: told }: Readout) {
  const colour = target || `lab ${lab.join(" ")}`;
  const white = told?.as_measured ? "absolute" : "relative";
  return `/spots?${new URLSearchParams({ colour, white })}`;
}
