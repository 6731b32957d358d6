import { Box, Button } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useMemo, useRef, useState, type ReactNode, type SyntheticEvent } from "react";
import { NavLink, useLocation, useNavigate } from "react-router";
import { buildsQuery, sitesQuery, unreadableQuery } from "../api/queries";
import { KindGlyph } from "../kinds";
import { dateYearWords, dayOf, dayWords } from "../look/clock";
import { useDay } from "../look/day";
import { usePrefs } from "../look/prefs";
import { SLAB } from "../look/theme";
import { preload } from "../preload";
import { Boundary } from "./Boundary";
import { Later, Opened } from "./Later";
import { WaitingWords } from "./OutboxVoice";
import { Waiting } from "./Problem";
import { SunStrip } from "./SunStrip";
import { UndoPlace } from "./UndoPlace";
import { useKeys } from "./useKeys";

/** The frame of every screen: sun strip on top, rack at the left, the page below the strip's own hours. */
const Finder = lazy(() => import("./Finder"));
const QuickSums = lazy(async () => ({ default: (await import("./QuickSums")).QuickSums }));
const Devices = lazy(async () => ({ default: (await import("./Devices")).Devices }));
const UnitsDialog = lazy(async () => ({ default: (await import("./UnitsDialog")).UnitsDialog }));
const KeysDialog = lazy(async () => ({ default: (await import("./KeysDialog")).KeysDialog }));

export function Shell({ children }: { children: ReactNode }) {
  const { day, now, setDay, moveDay, moveLamp, backToNow, siteId, site } = useDay();
  const { pathname } = useLocation();
  const page = useRef<HTMLElement>(null);
  const before = useRef(pathname);
  // Whoever follows a link with the keyboard goes on from the new page, not from the link that is gone.
  useEffect(() => {
    if (before.current !== pathname) page.current?.focus({ preventScroll: true });
    before.current = pathname;
  }, [pathname]);
  const [sums, setSums] = useState<string | true | null>(null);
  const [help, setHelp] = useState(false);
  const [finding, setFinding] = useState(false);
  const { dusk, setDusk } = usePrefs();
  const navigate = useNavigate();
  const [units, setUnits] = useState(false);
  const [devices, setDevices] = useState(false);
  const cache = useQueryClient();
  const comesNear = (event: SyntheticEvent) => {
    const link = (event.target as Element).closest?.("a[href^='/']")?.getAttribute("href");
    if (link && !link.startsWith("/api/") && link !== near.current) preload(cache, link);
    near.current = link ?? null;
  };
  const near = useRef<string | null>(null);
  const doings = useMemo(
    () => ({
      "/": () => setFinding(true),
      "=": () => setSums((open) => (open ? null : true)),
      "?": () => setHelp(true),
      "[": () => moveLamp(-60),
      "]": () => moveLamp(60),
      ",": () => moveDay(-1),
      ".": () => moveDay(1),
      n: backToNow,
      d: () => setDusk(!dusk),
      p: () => window.print(),
      y: () => void navigate(`/sites/${siteId}/yard`),
    }),
    [moveLamp, moveDay, backToNow, dusk, setDusk, navigate, siteId],
  );
  useKeys(doings);
  const said = useMemo(
    () => [
      { title: "Yard", run: doings.y },
      { title: "New build", run: () => void navigate(`/sites/${siteId}/new`) },
      { title: "Side by side", run: () => void navigate(`/sites/${siteId}/beside`) },
      { title: "Stacks that wait", run: () => void navigate(`/sites/${siteId}/stacks`) },
      { title: "Place and spots", run: () => void navigate(`/sites/${siteId}/place`) },
      { title: "Shelf", run: () => void navigate(`/sites/${siteId}/shelf`) },
      { title: "Quick sums", run: () => setSums(true) },
      { title: "Units", run: () => setUnits(true) },
      { title: dusk ? "Daylight" : "Dusk", run: doings.d },
      { title: "Devices", run: () => setDevices(true) },
      { title: "Keys", run: doings["?"] },
      { title: "Print what is shown", run: doings.p },
    ],
    [doings, dusk, navigate, siteId],
  );
  return (
    <Box className="frame on-paper" onPointerOver={comesNear} onFocus={comesNear}>
      <Box className="print-head" aria-hidden><b>{site.name}</b><span>{dateYearWords(day)}</span><span>Dry Lamp</span></Box>
      <nav aria-label="skip" className="skips"><a href="#page" onClick={(e) => { e.preventDefault(); page.current?.focus(); }}>Skip to the page</a><a href="#rack" onClick={(e) => { e.preventDefault(); document.querySelector<HTMLElement>("#rack a")?.focus(); }}>Skip to the yard and its builds</a></nav>
      <Box component="header" className="masthead on-paper border-bottom-1-ink">
        <SiteName siteId={siteId} name={site.name} />
        <Box className="flex items-center between">
          <DayButton label="day back" onClick={() => moveDay(-1)}>‹</DayButton>
          <label className="day-picker">
            <span className="size-14 weight-600">{day.slice(0, 4) === dayOf(now, site.time_zone).slice(0, 4) ? dayWords(day) : dateYearWords(day)}</span>
            <input type="date" aria-label="day" value={day} min={FIRST_DAY} max={LAST_DAY} onClick={(e) => e.currentTarget.showPicker()} onChange={(e) => e.target.value && setDay(e.target.value)} />
          </label>
          <DayButton label="day on" onClick={() => moveDay(1)}>›</DayButton>
          <DayButton label="back to now" onClick={backToNow}>now</DayButton>
        </Box>
      </Box>
      <Box component="section" aria-label="sun strip" className="strip position-sticky top-0 z-index-20 on-paper border-bottom-1-ink"><SunStrip /><WaitingWords /></Box>
      <Rack siteId={siteId} onFind={() => setFinding(true)} onSums={() => setSums(true)} onUnits={() => setUnits(true)} onDevices={() => setDevices(true)} onHelp={() => setHelp(true)} />
      <Box component="main" id="page" ref={page} tabIndex={-1} className="min-width-0 no-outline"><Boundary about={pathname}><Later instead={<Waiting what="Opening" />}>{children}<Opened /></Later></Boundary></Box>
      <UndoPlace />
      <Suspense>
        {devices && <Devices open onClose={() => setDevices(false)} />}
        {units && <UnitsDialog open onClose={() => setUnits(false)} />}
        {sums !== null && <QuickSums key={sums === true ? "" : sums} open first={sums === true ? null : sums} onClose={() => setSums(null)} />}
        {help && <KeysDialog open onClose={() => setHelp(false)} />}
        {finding && <Finder onClose={() => setFinding(false)} onSum={setSums} doings={said} />}
      </Suspense>
    </Box>
  );
}

const ANOTHER = "another";
/** The clock in this page reaches no farther; what a day may be is the server's matter. */
const [FIRST_DAY, LAST_DAY] = ["1970-01-02", "2199-12-30"];

function DayButton({ label, onClick, children }: { label: string; onClick: () => void; children: ReactNode }) {
  return <Button variant="text" aria-label={label} title={label} onClick={onClick} className="min-width-24 px-0_75 py-0">{children}</Button>;
}

function SiteName({ siteId, name }: { siteId: number; name: string }) {
  const { data: sites } = useQuery(sitesQuery);
  const navigate = useNavigate();
  return (
    <Box
      component="select" aria-label="site" value={siteId} onChange={(e) => { const { value } = e.target as HTMLSelectElement; void navigate(value === ANOTHER ? "/another-place" : `/sites/${value}/yard`); }}
      sx={(t) => ({ fontFamily: SLAB, fontWeight: 700, fontSize: 15, border: 0, background: "transparent", color: t.ink.ink, width: "100%", p: 0 })}
    >
      {(sites ?? [{ id: siteId, site: { name } }]).map((s) => (
        <option key={s.id} value={s.id}>{s.site.name}</option>
      ))}
      <option value={ANOTHER}>+ another place …</option>
    </Box>
  );
}

function Rack({ siteId, onFind, onSums, onUnits, onDevices, onHelp }: { siteId: number; onFind: () => void; onSums: () => void; onUnits: () => void; onDevices: () => void; onHelp: () => void }) {
  const { data: builds } = useQuery(buildsQuery(siteId));
  const { data: broken } = useQuery(unreadableQuery);
  const { dusk, setDusk } = usePrefs();
  const { search } = useLocation();
  const [open, setOpen] = useState(false);
  return (
    <Box
      component="nav" id="rack" aria-label="rack" onClick={(e) => (e.target as HTMLElement).closest("a") && setOpen(false)}
      className={open ? "rack open" : "rack"}
    >
      <Button
        className="rack-door" variant="text" aria-expanded={open} title="yard, builds, sums, units" onClick={() => setOpen(!open)}
      >
        {open ? "Close the rack" : "Rack"}
      </Button>
      <Button variant="text" onClick={onFind} className="start">Find  /</Button>
      <RackLink to={`/sites/${siteId}/yard${search}`}>Yard</RackLink>
      {broken && broken.length > 0 && <RackLink to="/cannot-be-read"><Box component="b" sx={(t) => ({ borderBottom: `3px solid ${t.ink.stop}` })}>Cannot be read: {broken.length}</Box></RackLink>}
      <RackLink to={`/sites/${siteId}/new`}>+ new build</RackLink>
      {(builds ?? []).map((b) => (
        <RackLink key={b.id} to={`/builds/${b.id}/forecast${search}`} match={`/builds/${b.id}/`}><KindGlyph spec={b.spec} /> {b.name}</RackLink>
      ))}
      <RackLink to={`/sites/${siteId}/stacks${search}`}>Stacks that wait</RackLink>
      <RackLink to={`/sites/${siteId}/beside`}>Side by side</RackLink>
      <RackLink to={`/sites/${siteId}/place`}>Place and spots</RackLink>
      <RackLink to={`/sites/${siteId}/shelf`}>Shelf</RackLink>
      <Button variant="text" onClick={onSums} className="start">Quick sums  =</Button>
      <Box className="flex-1 min-height-8" />
      <Button variant="text" className="start" onClick={onUnits}>Units</Button>
      <Button variant="text" className="start" onClick={() => setDusk(!dusk)}>{dusk ? "Daylight" : "Dusk"}</Button>
      <Button variant="text" className="start" onClick={onDevices}>Devices</Button>
      <Button variant="text" className="start" onClick={onHelp}>Keys  ?</Button>
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
        borderInlineStart: `4px solid ${here ? t.ink.ink : "transparent"}`, fontWeight: here ? 700 : 400, "&:hover": { textDecoration: "underline" },
      })}
    >
      {children}
    </Box>
  );
}
