import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answered, asProblem, client } from "../../api/client";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";

/** The first thing a new person does: say where. */
export function FirstSite() {
  const navigate = useNavigate();
  const cache = useQueryClient();
  const [name, setName] = useState("");
  const [latitude, setLatitude] = useState<number | null>(null);
  const [longitude, setLongitude] = useState<number | null>(null);
  const [elevation, setElevation] = useState(0);
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";
  const [timeZone, setTimeZone] = useState(zone);
  const add = useMutation({
    mutationFn: () =>
      answered(client.POST("/api/sites", { body: { name: name || "My yard", latitude_deg: latitude ?? 0, longitude_deg: longitude ?? 0, elevation_m: elevation, time_zone: timeZone } })),
    onSuccess: async (made) => {
      await navigate(`/sites/${made.id}/place`);
      await cache.invalidateQueries({ queryKey: ["sites"] });
    },
  });
  const problem = add.error ? asProblem(add.error) : null;
  return (
    <Box component="main" className="p-3 max-width-560 mx-auto">
      <Typography variant="h1">Where does the sun shine on you?</Typography>
      <Typography className="mb-2">Everything Dry Lamp works out starts with the place. It stays on this machine.</Typography>
      <TextField label="Name" value={name} placeholder="My yard" onChange={(e) => setName(e.target.value)} helperText=" " slotProps={{ inputLabel: { shrink: true } }} />
      <NumberField label="Latitude, north +" value={latitude} quantity="angle" problem={problem?.about("latitude_deg")} onCommit={setLatitude} />
      <NumberField label="Longitude, east +" value={longitude} quantity="angle" problem={problem?.about("longitude_deg")} onCommit={setLongitude} />
      <NumberField label="Height above the sea" value={elevation} quantity="distance" problem={problem?.about("elevation_m")} onCommit={setElevation} />
      <TextField label="Time zone" value={timeZone} onChange={(e) => setTimeZone(e.target.value)} error={Boolean(problem?.about("time_zone"))} helperText={problem?.about("time_zone") ?? " "} />
      {problem && <Problem error={problem} />}
      <Button variant="contained" disabled={latitude === null || longitude === null || add.isPending} onClick={() => add.mutate()}>Begin</Button>
    </Box>
  );
}
