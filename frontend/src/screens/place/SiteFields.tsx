import { TextField } from "@mui/material";
import type { Site } from "../../api/client";
import { NumberField } from "../../parts/NumberField";

type Lies = Pick<Site, "name" | "latitude_deg" | "longitude_deg" | "elevation_m" | "time_zone">;

interface Props {
  site: Lies;
  about: (field: string) => string | undefined;
  zoneHint?: string;
  set: (change: Partial<Lies>) => void;
}

/** What a place is called, where on earth it lies, and its clock. */
export function SiteFields({ site, about, zoneHint = " ", set }: Props) {
  return (
    <>
      <TextField label="Name" value={site.name} onChange={(e) => set({ name: e.target.value })} error={Boolean(about("name"))} helperText={about("name") ?? " "} />
      <NumberField label="Latitude, north +" value={site.latitude_deg} quantity="angle" problem={about("latitude_deg")} onCommit={(latitude_deg) => set({ latitude_deg })} />
      <NumberField label="Longitude, east +" value={site.longitude_deg} quantity="angle" problem={about("longitude_deg")} onCommit={(longitude_deg) => set({ longitude_deg })} />
      <NumberField label="Height above the sea" value={site.elevation_m} quantity="distance" problem={about("elevation_m")} onCommit={(elevation_m) => set({ elevation_m })} />
      <TextField label="Time zone" value={site.time_zone} onChange={(e) => set({ time_zone: e.target.value })} error={Boolean(about("time_zone"))} helperText={about("time_zone") ?? zoneHint} />
    </>
  );
}
