import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answered, asProblem, client, type Family, type Material, type Materials } from "../../api/client";
import { materialsQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { usePrefs } from "../../look/prefs";
import { withUnit, type Units } from "../../look/units";
import { Problem, Waiting } from "../../parts/Problem";
import { Sheets } from "../../parts/Sheets";
import { CouldBuild } from "./CouldBuild";
import { FAMILIES, OwnMaterial } from "./OwnMaterial";

/** Materials as swatches with their numbers and where these come from; the user's own stand among them. */
export default function ShelfScreen() {
  const { data, error } = useQuery(materialsQuery);
  const { siteId } = useDay();
  const [family, setFamily] = useState<Family>("absorber");
  const [search, setSearch] = useState("");
  const [editing, setEditing] = useState<{ from: Material; own: Materials["own"][number] | null } | null>(null);
  const take = useTakeOff();
  if (error) return <Problem error={error} />;
  if (!data) return <Waiting what="Opening the shelf" />;
  const { list, title } = FAMILIES[family];
  const rows: Material[] = data[list];
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = rows.filter((row) => words.every((word) => `${row.title} ${row.source}`.toLowerCase().includes(word)));
  const ownOf = (name: string) => data.own.find((m) => m.family === family && m.name === name) ?? null;
  return (
    <Box className="p-2">
      <Typography variant="h1">Shelf</Typography>
      <Sheets of="site" id={siteId} only={["pile"]} />
      <CouldBuild />
      <Sheets of="site" id={siteId} only={["house"]} />
      <Typography variant="h2" className="mt-2">Materials</Typography>
      <Box className="flex wrap gap-1 my-1 items-center">
        <Box role="group" aria-label="family" className="flex wrap gap-0_5">
          {(Object.keys(FAMILIES) as Family[]).map((name) => (
            <Button key={name} variant={name === family ? "contained" : "outlined"} aria-pressed={name === family} onClick={() => { setFamily(name); setEditing(null); }}>
              {FAMILIES[name].title} ({data[FAMILIES[name].list].length})
            </Button>
          ))}
        </Box>
        <Box className="width-200"><TextField label="Find a material" value={search} onChange={(e) => setSearch(e.target.value)} /></Box>
      </Box>
      {editing && <OwnMaterial fields={data.forms[family]!} key={`${family}-${editing.from.name}-${editing.own?.revision ?? 0}`} family={family} from={editing.from} own={editing.own} onDone={() => setEditing(null)} />}
      <Box component="ul" aria-label={title} className="no-marks p-0 m-0 grid columns-repeat-auto-fill-minmax-300px-1fr gap-1">
        {found.map((row) => {
          const own = ownOf(row.name);
          return (
            <Box component="li" key={row.name} className="border-1-rule on-raised grid columns-44px-1fr gap-1_25 p-1">
              <Swatch family={family} row={row} />
              <Box>
                <Typography variant="h2" component="h2" className="size-16">{row.title}{own ? " (own)" : ""}</Typography>
                <Numbers family={family} row={row} through={data.lets_through[row.name] ?? 0} />
                <Typography variant="body2" className="ink-soft">Source: {row.source}</Typography>
                {own ? (
                  <>
                    <Button variant="text" aria-label={`Change ${row.title}`} onClick={() => setEditing({ from: row, own })}>Change</Button>
                    <Button variant="text" aria-label={`Take off ${row.title}`} onClick={() => take.mutate(own)}>Take off</Button>
                  </>
                ) : (
                  <Button variant="text" aria-label={`Own one like ${row.title}`} onClick={() => setEditing({ from: row, own: null })}>Own one like</Button>
                )}
              </Box>
            </Box>
          );
        })}
      </Box>
      {found.length === 0 && <Typography>Nothing on this shelf has these words. Try fewer.</Typography>}
    </Box>
  );
}

function useTakeOff() {
  const cache = useQueryClient();
  const notices = useNotices();
  const refresh = () => cache.invalidateQueries({ queryKey: ["materials"] });
  return useMutation({
    mutationFn: (own: Materials["own"][number]) =>
      answered(client.DELETE("/api/materials/{id}", { params: { path: { id: own.id }, header: { "If-Match": `"r${own.revision}"` } } })),
    onSuccess: async (gone) => {
      await refresh();
      notices.say(`${gone.name} is off the shelf. Builds made of it keep it.`, {
        label: "put back",
        run: () => void answered(client.POST("/api/materials/{id}/restore", { params: { path: { id: gone.id } } })).then(refresh).catch((error: unknown) => notices.warn(asProblem(error).message)),
      });
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
}

/** A patch of the stuff as the drawings show it: how much sun it throws back, hatched as wall, foam, glass or mirror. */
function Swatch({ family, row }: { family: Family; row: Material }) {
  const light = family === "absorber" ? 1 - (row as Materials["absorbers"][number]).absorptance : family === "mirror" ? (row as Materials["mirrors"][number]).reflectance : 0.8;
  const tone = Math.round(30 + 210 * light);
  return (
    <svg width={44} height={44} viewBox="0 0 44 44" aria-hidden>
      <rect x={0.5} y={0.5} width={43} height={43} fill={family === "cover" ? "none" : `rgb(${tone}, ${tone}, ${tone - 6})`} stroke="currentColor" />
      {family === "cover" && [14, 30].slice(0, (row as Materials["covers"][number]).skins).map((y) => <path key={y} d={`M4 ${y}h36M4 ${y + 4}h36`} stroke="currentColor" strokeWidth={1} />)}
      {family === "mirror" && [8, 18, 28, 38].map((x) => <path key={x} d={`M${x} 40l6 -8`} stroke="#22201C" strokeWidth={1.4} />)}
      {family === "layer" && ((row as Materials["layers"][number]).conductivity_w_mk < 0.07
        ? [[10, 10], [30, 14], [18, 26], [34, 34], [8, 36]].map(([x, y]) => <circle key={`${x}${y}`} cx={x} cy={y} r={2.4} fill="#22201C" />)
        : [8, 20, 32].map((x) => <path key={x} d={`M${x - 8} 44L${x + 12} 0`} stroke="#22201C" strokeWidth={1.2} />))}
    </svg>
  );
}

const percent = (share: number) => `${Math.round(share * 100)} %`;

function numbersOf(family: Family, row: Material, through: number, units: Units): string[] {
  const last = [`lasts to ${withUnit(row.top_service_c, "temperature", units)}`, row.food_safe ? "fit near food" : "not near food", row.price_m2 > 0 ? `about ${withUnit(row.price_m2, "price", units)} for ${withUnit(1, "area", units)}` : "salvage"];
  if (family === "absorber") {
    const { absorptance, emittance } = row as Materials["absorbers"][number];
    return [`takes up ${percent(absorptance)} of the sun`, `gives off ${percent(emittance)} of a black body's heat`, ...last];
  }
  if (family === "cover") {
    const sheet = row as Materials["covers"][number];
    return [`lets ${percent(through)} of the sun through`, `${percent(sheet.longwave_transmittance)} of long-wave heat`, withUnit(sheet.usual_thickness_m, "length", units), ...last];
  }
  if (family === "mirror") {
    const mirror = row as Materials["mirrors"][number];
    return [`throws on ${percent(mirror.reflectance)}`, `slope error ${mirror.slope_error_mrad} mrad`, ...last];
  }
  const layer = row as Materials["layers"][number];
  return [withUnit(layer.conductivity_w_mk, "conductivity", units), withUnit(layer.density_kg_m3, "density", units), withUnit(layer.cp_j_kgk, "specific_heat", units), withUnit(layer.usual_thickness_m, "length", units), ...last];
}

function Numbers({ family, row, through }: { family: Family; row: Material; through: number }) {
  const { units } = usePrefs();
  return <Typography variant="body2">{numbersOf(family, row, through, units).join(" · ")}</Typography>;
}
