import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answered, asProblem, client, type Site, type SiteView } from "../../api/client";
import { nowQuery, sitesQuery, weatherFilesQuery } from "../../api/queries";
import { shiftDay } from "../../look/clock";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { keep, kept, usePrefs } from "../../look/prefs";
import { say } from "../../look/units";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";
import { kindOfFile, WEATHER_FILES } from "../../parts/weatherFiles";
import { asSent } from "../../parts/sent";
import { MonthsTable } from "./MonthsTable";
import { SiteFields } from "./SiteFields";
import { YardFile } from "./YardFile";
import { SpotForm, type Spot } from "./SpotForm";

/** The place: where on earth, the usual days by month, and each spot's skyline and obstacles. */
export default function PlaceScreen() {
  const { siteId } = useDay();
  const row = useQuery(sitesQuery).data?.find((s) => s.id === siteId);
  return row ? <PlaceForm key={row.id} row={row} /> : null;
}

/** What was typed and is not kept yet, with the revision that it was typed over; it outlives the page. */
interface Unkept {
  revision: number;
  site: Site;
}

function usePlace(row: SiteView) {
  const name = `drylamp.place.${row.id}`;
  const [unkept, setUnkept] = useState<Unkept | null>(() => kept<Unkept | null>(name, null));
  const hold = (next: Unkept | null) => {
    keep(name, next);
    setUnkept(next);
  };
  return { site: unkept?.site ?? row.site, unkept, hold, set: (change: Partial<Site>) => hold({ revision: unkept?.revision ?? row.revision, site: { ...(unkept?.site ?? row.site), ...change } }) };
}

function PlaceForm({ row }: { row: SiteView }) {
  const cache = useQueryClient();
  const notices = useNotices();
  const navigate = useNavigate();
  const { site, unkept, hold, set } = usePlace(row);
  const save = useMutation({
    mutationFn: ({ site: next, revision }: Unkept) => answered(client.PUT("/api/sites/{id}", { params: { path: { id: row.id }, header: { "If-Match": `"r${revision}"` } }, body: next })),
    onSuccess: () => {
      hold(null);
      notices.say("The place is kept.");
      void cache.invalidateQueries();
    },
    onError: () => void cache.invalidateQueries({ queryKey: ["sites"] }),
  });
  const problem = save.error ? asProblem(save.error) : null;
  const elsewhere = unkept !== null && unkept.revision !== row.revision;
  const { spots } = site;
  const setSpot = (i: number, change: Partial<Spot>) => set({ spots: spots.map((s, k) => (k === i ? { ...s, ...change } : s)) });
  return (
    <Box className="p-2 max-width-1060">
      <Box className="titled mb-1_5">
        <Typography variant="h1" className="flex-1">Place and spots</Typography>
        <Button onClick={() => void navigate("/another-place")}>Another place …</Button>
      </Box>
      <Box className="grid columns-repeat-auto-fit-minmax-180px-1fr gap-1_5">
        <SiteFields site={site} about={(f) => problem?.about(f)} zoneHint="such as Europe/Madrid" set={set} />
        <NumberField label="Ground throws back" value={site.albedo} quantity="share" problem={problem?.about("albedo")} onCommit={(albedo) => set({ albedo })} />
      </Box>
      <Typography variant="h2" className="mt-1 mb-1">Usual days by month</Typography>
      <Usual row={row} site={site} set={set} />
      <MonthsTable climate={site.climate ?? row.climate} about={(f) => problem?.about(f)} onChange={(climate) => set({ climate })} />
      <Typography variant="h2" className="mt-2 mb-1">Spots</Typography>
      {spots.map((spot, i) => (
        <SpotForm key={i} spot={spot} index={i} about={(f) => problem?.about(f)} onChange={(change) => setSpot(i, change)} onRemove={spots.length > 1 ? () => set({ spots: spots.filter((_, k) => k !== i) }) : undefined} />
      ))}
      <Button onClick={() => set({ spots: [...spots, { name: `spot ${spots.length + 1}`, horizon: [], obstacles: [], around: null }] })}>Add a spot</Button>
      {problem?.besides((f) => (f.split(".")[0] ?? "") in site) && problem.status !== 412 && <Problem error={problem} />}
      {unkept && (
        <Box role="status" className="not-kept">
          <Typography className="flex-1">{elsewhere ? "The place was changed elsewhere; what you typed is still here." : "What you changed is not kept yet; it waits here until you keep it."}</Typography>
          <Button variant="contained" disabled={save.isPending} onClick={() => save.mutate({ revision: row.revision, site })}>{elsewhere ? "Keep mine" : "Keep the place"}</Button>
          <Button onClick={() => { hold(null); save.reset(); }}>Back to what is kept</Button>
        </Box>
      )}
      <YardFile />
    </Box>
  );
}

/** Where the months come from, and where better ones may be had. */
function Usual({ row, site, set }: { row: SiteView; site: Site; set: (change: Partial<Site>) => void }) {
  const cache = useQueryClient();
  const notices = useNotices();
  const input = useRef<HTMLInputElement>(null);
  const { siteId, day } = useDay();
  const { units } = usePrefs();
  const files = useQuery(weatherFilesQuery(siteId)).data ?? [];
  const service = useQuery(nowQuery).data?.weather_service ?? false;
  const path = { id: row.id };
  const taken = (name: string, climate: NonNullable<Site["climate"]>) => {
    set({ climate });
    notices.say(`The months are those of ${name} now.`);
  };
  const use = useMutation({
    mutationFn: async (file: { id: number; name: string }) => ({ name: file.name, months: await answered(client.GET("/api/sites/{id}/weather-files/{part_id}/months", { params: { path: { ...path, part_id: file.id } } })) }),
    onSuccess: ({ name, months }) => taken(name, months),
  });
  const bring = useMutation({
    mutationFn: async (file: File) => answered(client.POST("/api/sites/{id}/weather-files", { params: { path }, body: { ...(await asSent(file)), kind: kindOfFile(file.name) } })),
    onSuccess: (file) => { void cache.invalidateQueries({ queryKey: ["weather", siteId] }); file.notes.forEach((note) => notices.warn(say(note, units))); use.mutate(file); },
  });
  const ask = useMutation({
    mutationFn: () => answered(client.POST("/api/sites/{id}/weather-service", { params: { path }, body: { start: shiftDay(day, -YEAR_DAYS), days: YEAR_DAYS } })),
    onSuccess: (file) => { void cache.invalidateQueries({ queryKey: ["weather", siteId] }); file.notes.forEach((note) => notices.warn(say(note, units))); use.mutate(file); },
  });
  const trouble = use.error ?? bring.error ?? ask.error;
  return (
    <Box>
      {!site.climate && row.climate_is_rough && <Typography className="border-left-6-sun pl-1">These months are a rough guess from latitude, height and distance from the sea. Every forecast carries its doubt until you type what you know, or take the months from a year of weather.</Typography>}
      <Box className="flex wrap gap-1 mt-1">
        <Button disabled={bring.isPending} onClick={() => input.current?.click()}>Months from a weather file …</Button>
        {files.map((f) => <Button key={f.id} disabled={use.isPending} onClick={() => use.mutate(f)}>Months of {f.name}</Button>)}
        {service && <Button disabled={ask.isPending} onClick={() => ask.mutate()}>Months of the last year, from the weather service</Button>}
        {site.climate && <Button onClick={() => set({ climate: null })}>Back to a rough guess</Button>}
        <input ref={input} type="file" hidden accept={WEATHER_FILES} aria-label="weather file for the months" onChange={(e) => { const file = e.target.files?.[0]; if (file) bring.mutate(file); e.target.value = ""; }} />
      </Box>
      {trouble && <Problem error={trouble} />}
    </Box>
  );
}

const YEAR_DAYS = 360;
