import { Box, Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answered, asProblem, client, type SkyState } from "../../api/client";
import { bookQuery, buildsQuery, linesQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { Choice } from "../../parts/Choice";
import { Problem } from "../../parts/Problem";
import { SKIES } from "./skies";
import type { BuildState } from "./useBuild";

const MOST = 24;
const PROTOCOL = "free-log";

/** A trial over many boxes: a list of names, what each box is like, and where it is read. */
export function ClassDialog({ state, onClose }: { state: BuildState; onClose: () => void }) {
  const build = state.build!;
  const { siteId } = useDay();
  const cache = useQueryClient();
  const navigate = useNavigate();
  const book = useQuery(bookQuery).data;
  const others = (useQuery(buildsQuery(siteId)).data ?? []).filter((b) => b.id !== build.id && b.variant_of === build.id);
  const lines = useQuery(linesQuery(build.spec, null, PROTOCOL)).data ?? [];
  const places = lines.filter((l) => l.place.inside && !l.place.of_load);
  const [name, setName] = useState("");
  const [list, setList] = useState("");
  const [likes, setLikes] = useState<Record<string, string>>({});
  const [node, setNode] = useState("");
  const [oneProbe, setOneProbe] = useState(false);
  const [sky, setSky] = useState("");
  const names = list.split("\n").map((line) => line.trim()).filter(Boolean);
  const read = node || places[0]?.place.channel.node || "";
  const begin = useMutation({
    mutationFn: () =>
      answered(client.POST("/api/classes", {
        body: {
          build_id: build.id, name: name.trim() || `Class of ${build.name}`, node: read, one_probe: oneProbe, sky: (sky || null) as SkyState | null,
          boxes: names.map((who, k) => ({ name: who, like: Number(likes[`${k}`]) || null })),
        },
      })),
    onSuccess: (trial) => { void cache.invalidateQueries({ queryKey: ["trials"] }); void navigate(`/trials/${trial.id}`); },
  });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>A class with many boxes</DialogTitle>
      <DialogContent className="two-columns pt-8px">
        <Box className="grid gap-1 align-content-start">
          <TextField label="Name" value={name} placeholder={`Class of ${build.name}`} onChange={(e) => setName(e.target.value)} slotProps={{ inputLabel: { shrink: true } }} helperText=" " />
          <TextField label="Whose boxes, a name on each line" value={list} multiline minRows={8} maxRows={14} onChange={(e) => setList(e.target.value)} slotProps={{ inputLabel: { shrink: true } }} helperText={names.length > MOST ? `${names.length} names; up to ${MOST} boxes stand in one trial` : `${names.length} boxes`} error={names.length > MOST} />
        </Box>
        <Box className="grid gap-1 align-content-start">
          {places.length > 0 && <Choice label="Read in each box" value={read} options={places.map((l) => ({ value: l.place.channel.node, title: l.place.channel.title }))} onChange={setNode} />}
          <FormControlLabel label="one thermometer walks from box to box" control={<Checkbox size="small" checked={oneProbe} onChange={(_, on) => setOneProbe(on)} />} />
          <Choice label="Sky" value={sky} options={[{ value: "", title: "as noted, or clear" }, ...SKIES]} onChange={setSky} />
          {others.length > 0 && names.length > 0 && (
            <Box role="group" aria-label="what each box is like">
              <Typography variant="h3">What each box is like</Typography>
              {names.slice(0, MOST).map((who, k) => (
                <Choice key={k} label={who} value={likes[`${k}`] ?? ""} options={[{ value: "", title: `as ${build.name}` }, ...others.map((b) => ({ value: String(b.id), title: b.name }))]} onChange={(to) => setLikes({ ...likes, [`${k}`]: to })} />
              ))}
            </Box>
          )}
          {others.length === 0 && <Typography variant="body2">Boxes that are built in another way can be told apart: make a variant of this build for each way first.</Typography>}
          {begin.error && <Problem error={asProblem(begin.error)} />}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Not now</Button>
        <Button variant="contained" disabled={!book || names.length === 0 || names.length > MOST || begin.isPending} onClick={() => begin.mutate()}>Start the clock</Button>
      </DialogActions>
    </Dialog>
  );
}
