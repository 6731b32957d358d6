import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answered, asProblem, client, type ClearDay, type DayWeather, type SkyState } from "../../api/client";
import { knownQuery } from "../../api/queries";
import { dayWords } from "../../look/clock";
import { useDay } from "../../look/day";
import { Choice } from "../../parts/Choice";
import { NumberField } from "../../parts/NumberField";
import { SKIES } from "./skies";

/** The day's low, high, sky and wind, as one reads them off the sky or hears them told; kept for that day. */
export function FourNumbers({ known, day, onTyped }: { known: DayWeather; day: string; onTyped: () => void }) {
  const { siteId } = useDay();
  const cache = useQueryClient();
  const path = { id: siteId, day };
  const took = (next: DayWeather) => {
    cache.setQueryData(knownQuery(siteId, day).queryKey, next);
    onTyped();
    for (const key of ["strip", "yard"]) void cache.invalidateQueries({ queryKey: [key, siteId] });
  };
  const type = useMutation({ mutationFn: (body: ClearDay) => answered(client.PUT("/api/sites/{id}/days/{day}", { params: { path }, body })), onSuccess: took });
  const forget = useMutation({ mutationFn: () => answered(client.DELETE("/api/sites/{id}/days/{day}", { params: { path } })), onSuccess: took });
  const at = known.typed ?? known.usual;
  const problem = type.error ? asProblem(type.error) : null;
  // Low and high typed one after the other may cross in between: the last that was sent goes on top.
  const sent = type.isError ? (type.variables ?? at) : at;
  const set = (change: Partial<ClearDay>) => type.mutate({ ...sent, ...change, rough: false });
  return (
    <Box component="section" aria-label="the day in four numbers" className="four-numbers">
      <NumberField label="Low" value={sent.tmin_c} quantity="temperature" problem={problem?.about("tmin_c")} onCommit={(tmin_c) => set({ tmin_c })} />
      <NumberField label="High" value={sent.tmax_c} quantity="temperature" problem={problem?.about("tmax_c")} onCommit={(tmax_c) => set({ tmax_c })} />
      <Choice label="Sky" value={at.sky ?? "clear"} options={SKIES} onChange={(sky) => set({ sky: sky as SkyState })} />
      <NumberField label="Wind" value={sent.wind_m_s} quantity="speed" problem={problem?.about("wind_m_s")} onCommit={(wind_m_s) => set({ wind_m_s })} />
      <Box className="grid-column-1-1 flex wrap gap-1 items-center">
        <Typography variant="body2" className="flex-1">
          {problem && !["tmin_c", "tmax_c", "wind_m_s"].some((f) => problem.about(f)) ? problem.message : known.typed ? `This is what you typed for ${dayWords(day)}; it is kept.` : `These are usual for the season; what you type is kept for ${dayWords(day)}.`}
        </Typography>
        {known.typed && <Button onClick={() => forget.mutate()}>Back to the usual day</Button>}
      </Box>
    </Box>
  );
}
