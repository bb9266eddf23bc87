import { Box, Button, Dialog, Typography } from "@mui/material";
import { type ReactNode, useEffect, useState } from "react";
import { useBlocker } from "react-router";

interface Props {
  /** What has not been kept yet, in words; empty where nothing would be lost. */
  what: string;
  /** Keeps it on the spot; resolves once that is done. Without it one stays and keeps it there. */
  keep?: readonly [label: string, keep: () => Promise<unknown>];
}

/** Asks before something that was not kept is left: on links, Back, and closing the window. */
export function useLeaving({ what, keep }: Props): {
  ask: (go: () => void) => void;
  dialog: ReactNode;
} {
  // A link to the page one is on leaves nothing.
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      what !== "" && currentLocation.pathname !== nextLocation.pathname,
  );
  const [waiting, setWaiting] = useState<(() => void) | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (what === "") return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [what]);
  const open = blocker.state === "blocked" || waiting !== null;
  const go = () => {
    if (blocker.state === "blocked") blocker.proceed();
    waiting?.();
    setWaiting(null);
  };
  const stay = () => {
    if (blocker.state === "blocked") blocker.reset();
    setWaiting(null);
  };
  const keepAndGo = async () => {
    try {
      await keep?.[1]();
      setProblem(null);
      go();
    } catch (caught) {
      setProblem(caught instanceof Error ? caught.message : String(caught));
    }
  };
  const dialog = (
    <Dialog open={open} onClose={stay} aria-labelledby="leaving-title">
      <Box sx={{ p: 3, maxWidth: 460 }}>
        <Typography id="leaving-title" variant="h1" component="h2">
          Leave without keeping it?
        </Typography>
        <Typography sx={{ mt: 1 }}>{what}</Typography>
        {problem && (
          <Typography role="alert" sx={{ mt: 1, fontWeight: 650 }}>
            {problem}
          </Typography>
        )}
        <Box sx={{ display: "flex", gap: 1, mt: 2 }}>
          {keep && (
            <Button variant="contained" autoFocus onClick={() => void keepAndGo()}>
              {keep[0]}
            </Button>
          )}
          <Button onClick={go}>Leave without it</Button>
          <Button autoFocus={!keep} onClick={stay}>
            Stay here
          </Button>
        </Box>
      </Box>
    </Dialog>
  );
  return {
    ask: (then) => {
      if (what === "") then();
      else setWaiting(() => then);
    },
    dialog,
  };
}
