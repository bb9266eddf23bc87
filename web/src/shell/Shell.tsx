import { Box, Typography } from "@mui/material";
import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";

import { AccountMenu } from "./AccountMenu";

interface Props {
  title?: ReactNode;
  detail?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
}

function PageLink({ to, children }: { to: string; children: ReactNode }) {
  const here = useLocation().pathname === to;
  return (
    <Box component={Link} to={to} aria-current={here ? "page" : undefined} sx={{ fontSize: 13, color: "text.primary", textDecoration: "none", fontWeight: here ? 700 : 450, whiteSpace: "nowrap", "&:hover": { textDecoration: "underline" } }}>
      {children}
    </Box>
  );
}

/** The frame of every page: mark, title, what can be done, and the page itself. */
export function Shell({ title, detail, actions, children }: Props) {
  return (
    <Box sx={{ height: "100vh", display: "flex", flexDirection: "column" }}>
      <Box
        component="header"
        sx={{ height: 48, flex: "none", display: "flex", alignItems: "center", gap: 2, px: 2, borderBottom: 1, borderColor: "divider" }}
      >
        <Box component={Link} to="/" aria-label="All jobs" sx={{ display: "flex", alignItems: "center", gap: 0.9, color: "text.primary", textDecoration: "none" }}>
          <Box sx={{ width: 11, height: 11, border: "3px solid currentColor" }} />
          <Typography sx={{ fontSize: 17, fontWeight: 750, letterSpacing: "-0.01em" }}>Plinto</Typography>
        </Box>
        <Box component="nav" aria-label="Pages" sx={{ display: "flex", gap: 1.75 }}>
          <PageLink to="/">Jobs</PageLink>
          <PageLink to="/policies">Policies</PageLink>
          <PageLink to="/printers">Printers</PageLink>
          <PageLink to="/queue">Queue</PageLink>
          <PageLink to="/folders">Folders</PageLink>
          <PageLink to="/house-rules">House rules</PageLink>
        </Box>
        <Typography component="h1" noWrap sx={{ fontSize: 13, minWidth: 0, flexShrink: 1 }}>
          <Box component="span" sx={{ fontWeight: 700 }}>{title}</Box>
          {detail && <Box component="span" sx={{ color: "text.secondary", ml: 1 }}>{detail}</Box>}
        </Typography>
        <Box sx={{ flex: 1 }} />
        {actions}
        <AccountMenu />
      </Box>
      <Box component="main" sx={{ flex: 1, minHeight: 0 }}>{children}</Box>
    </Box>
  );
}
