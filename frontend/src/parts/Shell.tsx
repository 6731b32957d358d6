import { Box, Button, Dialog, DialogContent, DialogTitle, Typography, useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState, type ReactNode } from "react";
import { NavLink, useLocation, useNavigate } from "react-router";
import { isSamples, isDish, isFunnel, isMelter, type BuildView } from "../api/client";
import { buildsQuery, sitesQuery } from "../api/queries";
import { dayWords } from "../look/clock";
import { useDay } from "../look/day";
import { usePrefs } from "../look/prefs";
import { SLAB } from "../look/theme";
import { QuickSums } from "./QuickSums";
import { SunStrip } from "./SunStrip";
import { useKeys } from "./useKeys";

/** The frame of every screen: sun strip on top, rack at the left, the page below the strip's own hours. */
const KEYS: [string, string][] = [
  ["1 – 6", "aim, make, forecast, trials, verdict, next of the open build"],
  ["[  ]", "lamp an hour back or on"],
  [",  .", "a day back or on"],
  ["n", "back to now"],
  ["r", "type a reading (in a trial)"],
  ["e", "note an event (in a trial)"],
  ["u", "undo the last change"],
  ["=", "quick sums"],
  ["?", "this help"],
];

export function Shell({ children }: { children: ReactNode }) {
  const { day, moveDay, moveLamp, backToNow, siteId, site } = useDay();
  const [sums, setSums] = useState(false);
  const [help, setHelp] = useState(false);
  useKeys(
    useMemo(
      () => ({
        "=": () => setSums((open) => !open),
        "?": () => setHelp(true),
        "[": () => moveLamp(-60),
        "]": () => moveLamp(60),
        ",": () => moveDay(-1),
        ".": () => moveDay(1),
        n: backToNow,
      }),
      [moveLamp, moveDay, backToNow],
    ),
  );
  return (
    <Box
      sx={(t) => ({
        display: "grid", minHeight: "100vh", gridTemplateColumns: "176px minmax(0, 1fr)", gridTemplateRows: "auto 1fr",
        background: t.ink.paper, "@media (max-width: 760px)": { gridTemplateColumns: "minmax(0, 1fr)", gridTemplateRows: "auto auto auto 1fr" },
      })}
    >
      <Box component="header" sx={(t) => ({ position: "sticky", top: 0, zIndex: 20, background: t.ink.paper, height: 73, borderBottom: `1px solid ${t.ink.ink}`, borderRight: `1px solid ${t.ink.rule}`, p: 1, "@media (max-width: 760px)": { position: "static", height: "auto" }, display: "flex", flexDirection: "column", justifyContent: "space-between" })}>
        <SiteName siteId={siteId} name={site.name} />
        <Box sx={{ display: "flex", alignItems: "center", justifyContent: "space-between" }}>
          <DayButton label="day back" onClick={() => moveDay(-1)}>‹</DayButton>
          <Typography component="span" sx={{ fontSize: 14, fontWeight: 600 }}>{dayWords(day)}</Typography>
          <DayButton label="day on" onClick={() => moveDay(1)}>›</DayButton>
          <DayButton label="back to now" onClick={backToNow}>now</DayButton>
        </Box>
      </Box>
      <Box component="section" aria-label="sun strip" sx={(t) => ({ position: "sticky", top: 0, zIndex: 20, background: t.ink.paper, borderBottom: `1px solid ${t.ink.ink}` })}><SunStrip /></Box>
      <Rack siteId={siteId} onSums={() => setSums(true)} onHelp={() => setHelp(true)} />
      <Box component="main" sx={{ minWidth: 0 }}>{children}</Box>
      <QuickSums open={sums} onClose={() => setSums(false)} />
      <Dialog open={help} onClose={() => setHelp(false)}>
        <DialogTitle>Keys</DialogTitle>
        <DialogContent>
          <Box component="dl" sx={{ display: "grid", gridTemplateColumns: "auto 1fr", columnGap: 3, rowGap: 0.75, m: 0 }}>
            {KEYS.map(([key, words]) => (
              <Box key={key} sx={{ display: "contents" }}>
                <Box component="dt" sx={{ fontFamily: SLAB, fontWeight: 700 }}>{key}</Box>
                <Box component="dd" sx={{ m: 0 }}>{words}</Box>
              </Box>
            ))}
          </Box>
        </DialogContent>
      </Dialog>
    </Box>
  );
}

function DayButton({ label, onClick, children }: { label: string; onClick: () => void; children: ReactNode }) {
  return <Button variant="text" aria-label={label} title={label} onClick={onClick} sx={{ minWidth: 24, px: 0.75, py: 0 }}>{children}</Button>;
}

function SiteName({ siteId, name }: { siteId: number; name: string }) {
  const { data: sites } = useQuery(sitesQuery);
  const navigate = useNavigate();
  return (
    <Box
      component="select" aria-label="site" value={siteId} onChange={(e) => navigate(`/sites/${(e.target as HTMLSelectElement).value}/yard`)}
      sx={(t) => ({ fontFamily: SLAB, fontWeight: 700, fontSize: 15, border: 0, background: "transparent", color: t.ink.ink, width: "100%", p: 0 })}
    >
      {(sites ?? [{ id: siteId, site: { name } }]).map((s) => (
        <option key={s.id} value={s.id}>{s.site.name}</option>
      ))}
    </Box>
  );
}

function Rack({ siteId, onSums, onHelp }: { siteId: number; onSums: () => void; onHelp: () => void }) {
  const { data: builds } = useQuery(buildsQuery(siteId));
  const { units, setUnits, dusk, setDusk } = usePrefs();
  const { search } = useLocation();
  const [open, setOpen] = useState(false);
  return (
    <Box
      component="nav" aria-label="rack" onClick={(e) => (e.target as HTMLElement).closest("a") && setOpen(false)}
      sx={(t) => ({
        position: "sticky", top: 73, height: "calc(100vh - 73px)", overflowY: "auto",
        borderRight: `1px solid ${t.ink.rule}`, p: 1, display: "flex", flexDirection: "column", gap: 0.25,
        "@media (max-width: 760px)": {
          position: "static", height: "auto", borderRight: 0, borderBottom: `1px solid ${t.ink.rule}`, p: 0.5,
          "& > :not(.rack-door)": { display: open ? undefined : "none" },
        },
      })}
    >
      <Button
        className="rack-door" variant="text" aria-expanded={open} onClick={() => setOpen(!open)}
        sx={{ display: "none", justifyContent: "flex-start", "@media (max-width: 760px)": { display: "flex", minHeight: 40 } }}
      >
        {open ? "Close the rack" : "Rack: yard, builds, sums, units"}
      </Button>
      <RackLink to={`/sites/${siteId}/yard${search}`}>Yard</RackLink>
      {(builds ?? []).map((b) => (
        <RackLink key={b.id} to={`/builds/${b.id}/forecast${search}`} match={`/builds/${b.id}/`}><Glyph build={b} /> {b.name}</RackLink>
      ))}
      <RackLink to={`/sites/${siteId}/new`}>+ new build</RackLink>
      <RackLink to={`/sites/${siteId}/place`}>Place and spots</RackLink>
      <RackLink to={`/sites/${siteId}/shelf`}>Shelf</RackLink>
      <Button variant="text" onClick={onSums} sx={{ justifyContent: "flex-start" }}>Quick sums  =</Button>
      <Box sx={{ flex: 1, minHeight: 8 }} />
      <Button variant="text" sx={{ justifyContent: "flex-start" }} onClick={() => setUnits({ ...units, temperature: units.temperature === "C" ? "F" : "C" })} aria-label={`°${units.temperature} ${units.temperature === "C" ? "→ °F" : "→ °C"}, temperatures`}>
        °{units.temperature} {units.temperature === "C" ? "→ °F" : "→ °C"}
      </Button>
      <Button variant="text" sx={{ justifyContent: "flex-start" }} onClick={() => setUnits({ ...units, length: units.length === "mm" ? "in" : "mm" })} aria-label={`${units.length === "mm" ? "mm → inch" : "inch → mm"}, lengths`}>
        {units.length === "mm" ? "mm → inch" : "inch → mm"}
      </Button>
      <Button variant="text" sx={{ justifyContent: "flex-start" }} onClick={() => setDusk(!dusk)}>{dusk ? "Daylight" : "Dusk"}</Button>
      <Button variant="text" sx={{ justifyContent: "flex-start" }} onClick={onHelp}>Keys  ?</Button>
    </Box>
  );
}

function RackLink({ to, match, children }: { to: string; match?: string; children: ReactNode }) {
  const { pathname } = useLocation();
  const here = match ? pathname.startsWith(match) : pathname === to.split("?")[0];
  return (
    <Box
      component={NavLink} to={to}
      sx={(t) => ({
        display: "flex", alignItems: "center", gap: 0.75, px: 1, py: 0.6, color: t.ink.ink, textDecoration: "none", fontSize: 14.5,
        borderLeft: `4px solid ${here ? t.ink.oven : "transparent"}`, fontWeight: here ? 700 : 400, "&:hover": { textDecoration: "underline" },
      })}
    >
      {children}
    </Box>
  );
}

/** A build's section in miniature: box, tilted opening, mirror; or samples on their board. */
function Glyph({ build }: { build: BuildView }) {
  const { ink } = useTheme();
  if (isSamples(build.spec)) {
    return (
      <svg width={20} height={16} viewBox="0 0 20 16" aria-hidden>
        <rect x={2} y={1} width={16} height={14} fill="none" stroke={ink.samples} strokeWidth={1.2} />
        {[4, 8.5, 13].flatMap((x) => [3, 9].map((y) => <rect key={`${x}${y}`} x={x} y={y} width={3} height={4} fill={ink.samples} />))}
      </svg>
    );
  }
  if (isFunnel(build.spec)) {
    return <svg width={20} height={16} viewBox="0 0 20 16" aria-hidden><path d="M2 1L7 12h6L18 1" fill="none" stroke="currentColor" strokeWidth={1.6} /><path d="M8.5 10V6h3v4z" fill="currentColor" /></svg>;
  }
  if (isDish(build.spec)) {
    return <svg width={20} height={16} viewBox="0 0 20 16" aria-hidden><path d="M1 5Q10 22 19 5" fill="none" stroke="currentColor" strokeWidth={1.6} /><path d="M8 5V1h4v4z" fill="currentColor" /></svg>;
  }
  if (isMelter(build.spec)) {
    return <svg width={20} height={16} viewBox="0 0 20 16" aria-hidden><g transform="rotate(16 10 9)" fill="none" stroke={ink.melter} strokeWidth={1.4}><path d="M2 6v5h16V6" /><path d="M2 6h16" strokeWidth={0.8} /><path d="M13 11V7" strokeDasharray="1.5 1" /></g></svg>;
  }
  const tilt = (build.spec.tilt_deg ?? 30) * 0.25;
  return (
    <svg width={20} height={16} viewBox="0 0 20 16" aria-hidden>
      <g transform={`rotate(${tilt} 10 12)`} stroke="currentColor" fill="none" strokeWidth={1.4}>
        <path d="M3 7v7h12V7" /><path d="M3 7h12" strokeWidth={0.8} />
        {build.spec.mirror && <path d="M3 7L1 1" strokeWidth={1.8} />}
      </g>
    </svg>
  );
}
