import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answered, asProblem, client, type Place } from "../../api/client";
import { placesQuery } from "../../api/queries";
import { useSettled } from "../../look/useSettled";
import { usePrefs } from "../../look/prefs";
import { PRESETS, say, withUnit, countWords } from "../../look/units";
import { Problem } from "../../parts/Problem";
import { SiteFields } from "./SiteFields";

/** Where it stands: a town's name or coordinates are enough, the rest follows and may be put right. */
export function NewSite({ first = true }: { first?: boolean }) {
  const { units, setUnits } = usePrefs();
  const [typed, setTyped] = useState("");
  const [place, setPlace] = useState<Place | null>(null);
  const asked = useSettled(typed.trim(), 250);
  const found = useQuery(placesQuery(asked));
  const problem = found.error ? asProblem(found.error).message : undefined;
  const none = asked !== "" && found.data?.length === 0 && !found.isPlaceholderData;
  return (
    <Box component="main" className="p-3 max-width-900 mx-auto">
      <Typography variant="h1">Where does the sun shine on you?</Typography>
      <Typography className="mb-2">Everything Dry Lamp works out starts with the place. It stays on this machine, and so do the names of towns.</Typography>
      <TextField
        label="A town, or coordinates" value={typed} autoComplete="off" placeholder="Reus, Spain   or   41° 12' N, 1° 6' E"
        error={Boolean(problem)} helperText={problem ?? (none ? `No town of more than a thousand people begins with “${asked}”. Try the next larger one, or coordinates.` : found.isFetching && asked ? "Looking …" : " ")}
        onChange={(e) => { setTyped(e.target.value); setPlace(null); }}
        onKeyDown={(e) => { if (e.key === "Enter" && found.data?.[0] && asked === typed.trim()) setPlace(found.data[0]); }}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      {!place && found.data && found.data.length > 0 && (
        <Box component="ul" className="no-marks pl-0 m-0" aria-label="places found">
          {found.data.map((p) => (
            <Box component="li" key={`${p.title} ${p.latitude_deg} ${p.longitude_deg}`} className="border-top-1-rule">
              <Button variant="text" className="start" fullWidth onClick={() => setPlace(p)}>
                <span><b>{p.title}</b>{p.people !== null && <span className="ink-soft"> {coordinates(p)}, {countWords(p.people)} people</span>}</span>
              </Button>
            </Box>
          ))}
        </Box>
      )}
      {place && <Found key={place.title} place={place} first={first} />}
      <Box className="mt-2">
        <Typography variant="h2" id="in-units">In which units?</Typography>
        <Box role="group" aria-labelledby="in-units" className="flex wrap gap-1 mt-0_5">
          {Object.entries(PRESETS).map(([name, preset]) => {
            const same = Object.entries(preset).every(([quantity, symbol]) => units[quantity] === symbol);
            return <Button key={name} aria-pressed={same} variant={same ? "contained" : "outlined"} onClick={() => setUnits({ ...preset })}>{name}: {EXAMPLES.map((q) => preset[q]).join(", ")}</Button>;
          })}
        </Box>
        <Typography variant="body2" className="ink-soft mt-0_5">Each can be changed at any time, and numbers may be typed in any unit.</Typography>
      </Box>
    </Box>
  );
}

const EXAMPLES = ["temperature", "length", "volume", "mass"];

const side = (value: number, above: string, below: string) => `${Math.abs(value).toFixed(2)}° ${value < 0 ? below : above}`;
const coordinates = (p: Place) => `${side(p.latitude_deg, "N", "S")}, ${side(p.longitude_deg, "E", "W")}`;

function Found({ place, first }: { place: Place; first: boolean }) {
  const { units } = usePrefs();
  const navigate = useNavigate();
  const cache = useQueryClient();
  const [site, setSite] = useState(place);
  const set = (change: Partial<Place>) => setSite((old) => ({ ...old, ...change }));
  const add = useMutation({
    mutationFn: () => {
      const { name, latitude_deg, longitude_deg, elevation_m, time_zone } = site;
      return answered(client.POST("/api/sites", { body: { name, latitude_deg, longitude_deg, elevation_m, time_zone } }));
    },
    onSuccess: async (made) => {
      await navigate(`/sites/${made.id}/${first ? "new" : "yard"}`);
      await cache.invalidateQueries({ queryKey: ["sites"] });
    },
  });
  const problem = add.error ? asProblem(add.error) : null;
  const high = site.elevation_m === place.elevation_m ? `about ${withUnit(site.elevation_m, "distance", units, { doubt: site.elevation_doubt_m })} above the sea (more in doubt in mountains)` : `${withUnit(site.elevation_m, "distance", units)} above the sea`;
  return (
    <Box component="section" aria-label="the place" className="border-1-rule p-1_5 on-raised">
      <Typography className="size-17 weight-650">{place.title}</Typography>
      <Typography>It lies at {coordinates(site)}, {high}, and keeps the clock of {site.time_zone}.</Typography>
      <Typography className="ink-soft">{say(place.rough, units)}</Typography>
      <Box component="details" className="mt-1">
        <summary>Put something right</summary>
        <Box className="grid columns-repeat-auto-fit-minmax-180px-1fr gap-1_5 mt-1_5">
          <SiteFields site={site} about={(f) => problem?.about(f)} set={set} />
        </Box>
      </Box>
      {problem?.besides((f) => f in site) && <Problem error={problem} />}
      <Button className="mt-1" variant="contained" disabled={add.isPending} onClick={() => add.mutate()}>{first ? "Begin here" : "Add this place"}</Button>
    </Box>
  );
}
