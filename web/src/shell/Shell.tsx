import { Box, Typography } from "@mui/material";
import { type MouseEvent, type ReactNode, useEffect, useRef } from "react";
import { Link, useLocation } from "react-router";

import { Boundary, UndoBar } from "../ui";
import { visuallyHidden } from "../ui/hidden";
import { AccountMenu } from "./AccountMenu";

interface Props {
  title?: ReactNode;
  detail?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
}

/** The places by what they are for; a group opens its first place, the others stand in the row below. */
const GROUPS = [
  ["Jobs", [["/", "Jobs"]]],
  [
    "Print room",
    [
      ["/policies", "Policies"],
      ["/printers", "Printers"],
      ["/proofs", "Proof prints"],
      ["/queue", "Queue"],
      ["/folders", "Folders"],
    ],
  ],
  [
    "Colour",
    [
      ["/conditions", "Conditions"],
      ["/profiles", "Profiles"],
      ["/gamuts", "Gamuts"],
      ["/paths", "Colour paths"],
      ["/spots", "Spot colours"],
      ["/questions", "Questions"],
    ],
  ],
  [
    "House",
    [
      ["/house-rules", "House rules"],
      ["/words", "Words"],
      ["/methods", "Methods"],
    ],
  ],
] as const;

const isAt = (to: string, path: string) =>
  to === "/" ? path === "/" || path.startsWith("/jobs") : path === to || path.startsWith(`${to}/`);

function PageLink({ to, here, children }: { to: string; here: boolean; children: ReactNode }) {
  return (
    <Box
      component={Link}
      to={to}
      aria-current={here ? "page" : undefined}
      sx={{
        fontSize: 13,
        color: "text.primary",
        textDecoration: "none",
        fontWeight: here ? 700 : 450,
        whiteSpace: "nowrap",
        lineHeight: "28px",
        "&:hover": { textDecoration: "underline" },
      }}
    >
      {children}
    </Box>
  );
}

/** False until a page has been shown: the first one leaves the focus where the browser has it. */
let hasShown = false;

/** Moves the focus into a page that was opened from another, unless something in it has taken it. */
function useFocusOnArrival() {
  const main = useRef<HTMLElement>(null);
  useEffect(() => {
    if (hasShown && !main.current?.contains(document.activeElement)) main.current?.focus();
    hasShown = true;
  }, []);
  return main;
}

/** The frame of every page: mark, title, what can be done, and the page itself. */
export function Shell({ title, detail, actions, children }: Props) {
  const { pathname } = useLocation();
  const group = GROUPS.find(([, places]) => places.some(([to]) => isAt(to, pathname)));
  const place = group?.[1].find(([to]) => isAt(to, pathname))?.[1];
  const name = typeof title === "string" ? title : place;
  const main = useFocusOnArrival();
  useEffect(() => {
    document.title = name ? `${name}, Plinto` : "Plinto";
  }, [name]);
  return (
    <Box sx={{ height: "100vh", display: "flex", flexDirection: "column" }}>
      <Box
        component="a"
        href="#page"
        onClick={(event: MouseEvent) => {
          event.preventDefault();
          main.current?.focus();
        }}
        sx={{
          position: "absolute",
          left: -9999,
          zIndex: 10,
          px: 2,
          lineHeight: "48px",
          bgcolor: "text.primary",
          color: "background.paper",
          "&:focus": { left: 0 },
        }}
      >
        Skip to the page
      </Box>
      <Box
        component="header"
        sx={{
          height: 48,
          flex: "none",
          display: "flex",
          alignItems: "center",
          gap: { xs: 1.25, lg: 2 },
          px: { xs: 1.25, lg: 2 },
          borderBottom: 1,
          borderColor: "divider",
        }}
      >
        <Box
          component={Link}
          to="/"
          sx={{
            display: "flex",
            alignItems: "center",
            gap: 0.9,
            color: "text.primary",
            textDecoration: "none",
          }}
        >
          <Box sx={{ width: 11, height: 11, border: "3px solid currentColor" }} />
          <Typography sx={{ fontSize: 17, fontWeight: 750, letterSpacing: "-0.01em" }}>
            Plinto
          </Typography>
        </Box>
        <Box component="nav" aria-label="Places" sx={{ display: "flex", gap: { xs: 1.5, lg: 2 } }}>
          {GROUPS.map(([label, places]) => (
            <PageLink key={label} to={places[0][0]} here={label === group?.[0]}>
              {label}
            </PageLink>
          ))}
        </Box>
        <Typography
          component="div"
          noWrap
          sx={{ fontSize: 13, minWidth: title ? 90 : 0, flex: "0 1 auto" }}
        >
          <Box
            component="h1"
            sx={{
              display: "inline",
              font: "inherit",
              fontWeight: 700,
              m: 0,
              ...(title ? {} : visuallyHidden),
            }}
          >
            {title ?? name}
          </Box>
          {detail && (
            <Box component="span" sx={{ color: "text.secondary", ml: title ? 1 : 0 }}>
              {detail}
            </Box>
          )}
        </Typography>
        <Box
          sx={{ flex: "1 1 0", minWidth: 0, display: "flex", justifyContent: "flex-end", gap: 1 }}
        >
          {actions}
        </Box>
        <AccountMenu />
      </Box>
      {group && group[1].length > 1 && (
        <Box
          component="nav"
          aria-label={group[0]}
          sx={{
            flex: "none",
            display: "flex",
            gap: 2.5,
            px: { xs: 1.25, lg: 2 },
            borderBottom: 1,
            borderColor: "divider",
            bgcolor: "background.paper",
          }}
        >
          {group[1].map(([to, label]) => (
            <PageLink key={to} to={to} here={label === place}>
              {label}
            </PageLink>
          ))}
        </Box>
      )}
      <Box
        component="main"
        id="page"
        ref={main}
        tabIndex={-1}
        sx={{ flex: 1, minHeight: 0, outline: "none" }}
      >
        <Boundary part="page" at={pathname}>
          {children}
        </Boundary>
      </Box>
      <UndoBar />
    </Box>
  );
}
