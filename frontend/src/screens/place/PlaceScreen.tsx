import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, asProblem, client, type Site, type SiteView } from "../../api/client";
import { sitesQuery } from "../../api/queries";
import { MONTHS } from "../../look/clock";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";

/** The place: where on earth, the usual days by month, and each spot's skyline and obstacles. */
export default function PlaceScreen() {
  const { siteId } = useDay();
  const row = useQuery(sitesQuery).data?.find((s) => s.id === siteId);
  return row ? <PlaceForm key={row.id} row={row} /> : null;
}

type Spot = Site["spots"][number];

function PlaceForm({ row }: { row: SiteView }) {
  const cache = useQueryClient();
  const notices = useNotices();
  const [site, setSite] = useState<Site>(row.site);
  const save = useMutation({
    mutationFn: (next: Site) => answered(client.PUT("/api/sites/{id}", { params: { path: { id: row.id } }, body: next, headers: { "If-Match": `"r${row.revision}"` } })),
    onSuccess: () => {
      notices.say("Place kept.");
      void cache.invalidateQueries();
    },
  });
  const problem = save.error ? asProblem(save.error) : null;
  const set = (change: Partial<Site>) => setSite((old) => ({ ...old, ...change }));
  const { spots } = site;
  const setSpot = (i: number, change: Partial<Spot>) => set({ spots: spots.map((s, k) => (k === i ? { ...s, ...change } : s)) });
  return (
    <Box className="p-2 max-width-1000">
      <Typography variant="h1" className="mb-1_5">Place and spots</Typography>
      <Box className="grid columns-repeat-auto-fit-minmax-180px-1fr gap-1_5">
        <TextField label="Name" value={site.name} onChange={(e) => set({ name: e.target.value })} error={Boolean(problem?.about("name"))} helperText={problem?.about("name") ?? " "} />
        <NumberField label="Latitude, north +" value={site.latitude_deg} quantity="angle" problem={problem?.about("latitude_deg")} onCommit={(latitude_deg) => set({ latitude_deg })} />
        <NumberField label="Longitude, east +" value={site.longitude_deg} quantity="angle" problem={problem?.about("longitude_deg")} onCommit={(longitude_deg) => set({ longitude_deg })} />
        <NumberField label="Height above the sea" value={site.elevation_m} quantity="distance" problem={problem?.about("elevation_m")} onCommit={(elevation_m) => set({ elevation_m })} />
        <TextField label="Time zone" value={site.time_zone} onChange={(e) => set({ time_zone: e.target.value })} error={Boolean(problem?.about("time_zone"))} helperText={problem?.about("time_zone") ?? "such as Europe/Madrid"} />
        <NumberField label="Ground throws back" value={site.albedo} quantity="share" problem={problem?.about("albedo")} onCommit={(albedo) => set({ albedo })} />
      </Box>
      <Typography variant="h2" className="mt-1 mb-1">Spots</Typography>
      {spots.map((spot, i) => (
        <SpotForm key={i} spot={spot} index={i} about={(f) => problem?.about(f)} onChange={(change) => setSpot(i, change)} onRemove={spots.length > 1 ? () => set({ spots: spots.filter((_, k) => k !== i) }) : undefined} />
      ))}
      <Button onClick={() => set({ spots: [...spots, { name: `spot ${spots.length + 1}`, horizon: [], obstacles: [] }] })}>Add a spot</Button>
      <Typography variant="h2" className="mt-2">Usual clear days by month</Typography>
      {!site.climate && row.climate_is_rough && (
        <Typography>Guessed from latitude and height. Change what you know better; keep the place, and they count as yours.</Typography>
      )}
      <Climate climate={site.climate ?? row.climate} onChange={(climate) => set({ climate })} />
      {problem && <Problem error={problem} />}
      <Box className="mt-2 flex gap-1">
        <Button variant="contained" disabled={save.isPending} onClick={() => save.mutate(site)}>Keep the place</Button>
        <Button onClick={() => setSite(row.site)}>Back to what is kept</Button>
      </Box>
    </Box>
  );
}

function SpotForm({ spot, index, about, onChange, onRemove }: { spot: Spot; index: number; about: (field: string) => string | undefined; onChange: (change: Partial<Spot>) => void; onRemove: (() => void) | undefined }) {
  const { obstacles, horizon } = spot;
  const setObstacle = (i: number, change: Partial<(typeof obstacles)[number]>) => onChange({ obstacles: obstacles.map((o, k) => (k === i ? { ...o, ...change } : o)) });
  const setPoint = (i: number, change: Partial<(typeof horizon)[number]>) => onChange({ horizon: horizon.map((p, k) => (k === i ? { ...p, ...change } : p)) });
  return (
    <Box component="fieldset" className="border-1-rule mb-1_5 mx-0">
      <legend>Spot {index + 1}</legend>
      <Box className="flex gap-1 mb-1 mt-0_5">
        <TextField label="Spot name" value={spot.name} onChange={(e) => onChange({ name: e.target.value })} className="max-width-260" />
        {onRemove && <Button onClick={onRemove}>Take this spot away</Button>}
      </Box>
      {horizon.map((p, i) => (
        <Box key={i} className="grid columns-1fr-1fr-auto gap-1 max-width-520">
          <NumberField label="Skyline towards" value={p.azimuth_deg} quantity="angle" problem={about(`spots.${index}.horizon.${i}.azimuth_deg`)} onCommit={(azimuth_deg) => setPoint(i, { azimuth_deg })} />
          <NumberField label="Height" value={p.altitude_deg} quantity="angle" problem={about(`spots.${index}.horizon.${i}.altitude_deg`)} onCommit={(altitude_deg) => setPoint(i, { altitude_deg })} />
          <Button className="height-38" aria-label={`out: skyline point ${i + 1}`} onClick={() => onChange({ horizon: horizon.filter((_, k) => k !== i) })}>out</Button>
        </Box>
      ))}
      {obstacles.map((o, i) => (
        <Box key={i} className="obstacle-row">
          <TextField label="Obstacle" value={o.name} onChange={(e) => setObstacle(i, { name: e.target.value })} />
          <NumberField label="Bearing" value={o.bearing_deg} quantity="angle" problem={about(`obstacles.${i}.bearing_deg`)} onCommit={(bearing_deg) => setObstacle(i, { bearing_deg })} />
          <NumberField label="Away" value={o.distance_m} quantity="distance" problem={about(`obstacles.${i}.distance_m`)} onCommit={(distance_m) => setObstacle(i, { distance_m })} />
          <NumberField label="High" value={o.height_m} quantity="distance" problem={about(`obstacles.${i}.height_m`)} onCommit={(height_m) => setObstacle(i, { height_m })} />
          <NumberField label="Wide" value={o.width_m} quantity="distance" problem={about(`obstacles.${i}.width_m`)} onCommit={(width_m) => setObstacle(i, { width_m })} />
          <Button className="height-38" aria-label={`out: ${o.name}`} onClick={() => onChange({ obstacles: obstacles.filter((_, k) => k !== i) })}>out</Button>
        </Box>
      ))}
      <Button onClick={() => onChange({ horizon: [...horizon, { azimuth_deg: 180, altitude_deg: 5 }] })}>Add a skyline point</Button>{" "}
      <Button onClick={() => onChange({ obstacles: [...obstacles, { name: "tree", bearing_deg: 180, distance_m: 8, height_m: 4, width_m: 4 }] })}>Add an obstacle</Button>
    </Box>
  );
}

type Climate = NonNullable<Site["climate"]>;

function Climate({ climate, onChange }: { climate: Climate; onChange: (climate: Climate) => void }) {
  const set = (i: number, change: Partial<Climate[number]>) => onChange(climate.map((m, k) => (k === i ? { ...m, ...change } : m)));
  return (
    <Box className="grid columns-repeat-auto-fill-minmax-440px-1fr column-gap-3 row-gap-1 mt-1">
      {climate.map((m, i) => (
        <Box key={i} className="grid columns-40px-repeat-4-1fr gap-0_5 items-start">
          <Typography className="pt-1 weight-700">{MONTHS[i]}</Typography>
          <NumberField label="low" value={m.tmin_c} quantity="temperature" onCommit={(tmin_c) => set(i, { tmin_c })} />
          <NumberField label="high" value={m.tmax_c} quantity="temperature" onCommit={(tmax_c) => set(i, { tmax_c })} />
          <NumberField label="damp" value={m.rh} quantity="share" onCommit={(rh) => set(i, { rh })} />
          <NumberField label="wind" value={m.wind_m_s} quantity="speed" onCommit={(wind_m_s) => set(i, { wind_m_s })} />
        </Box>
      ))}
    </Box>
  );
}
