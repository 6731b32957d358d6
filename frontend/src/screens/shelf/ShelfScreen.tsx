import { Box, Button, TextField, Typography, useTheme } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { useSearchParams } from "react-router";
import { answered, asProblem, client, type Family, type Material, type Materials } from "../../api/client";
import { materialsQuery } from "../../api/queries";
import { useDay } from "../../look/day";
import { useNotices } from "../../look/notices";
import { named } from "../../look/names";
import { usePrefs } from "../../look/prefs";
import { say, withUnit, type Units } from "../../look/units";
import { MirrorTicks, Patterns } from "../../parts/section/marks";
import { paintOf } from "../../parts/section/paints";
import { Problem, Waiting } from "../../parts/Problem";
import { Sheets } from "../../parts/Sheets";
import { CouldBuild } from "./CouldBuild";
import { FAMILIES, OwnMaterial } from "./OwnMaterial";

/** Materials as swatches with their numbers and where these come from; the user's own stand among them. */
export default function ShelfScreen() {
  const { data, error } = useQuery(materialsQuery);
  const { siteId } = useDay();
  const [asked] = useSearchParams();
  const wanted = asked.get("material") ?? "";
  const [picked, setFamily] = useState<Family | null>(null);
  const [typed, setSearch] = useState<string | null>(null);
  const search = typed ?? wanted;
  const family = picked ?? (Object.keys(FAMILIES) as Family[]).find((name) => wanted !== "" && data?.[FAMILIES[name].list].some((row) => row.title === wanted)) ?? "absorber";
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
            <Box component="li" key={row.name} className="border-1-rule on-raised p-1">
              <Swatch family={family} row={row} does={data.does[`${family}/${row.name}`]} />
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
      notices.done(
        `${gone.name} is off the shelf. Builds made of it keep it.`,
        () => void answered(client.POST("/api/materials/{id}/restore", { params: { path: { id: gone.id } } })).then(refresh).catch((error: unknown) => notices.warn(asProblem(error).message)),
      );
    },
    onError: (error) => notices.warn(asProblem(error).message),
  });
}

/** A patch of the stuff as the drawings show it, and beside it the curve of what it does: of light, of heat. */
function Swatch({ family, row, does }: { family: Family; row: Material; does: Materials["does"][string] | undefined }) {
  const { ink } = useTheme();
  const { units } = usePrefs();
  const mine = useId();
  const fill =
    family === "absorber" ? paintOf({ ink: "black", takes_up: (row as Materials["absorbers"][number]).absorptance })
    : family === "layer" ? `url(#${mine}-${(row as Materials["layers"][number]).conductivity_w_mk < FOAMY_W_MK ? "foam" : "wood"})`
    : ink.raised;
  const points = does?.shares.map((share, i, all) => `${(54 + (46 * i) / (all.length - 1)).toFixed(1)} ${(42 - 38 * share).toFixed(1)}`) ?? [];
  return (
    <svg width={104} height={46} viewBox="0 0 104 46" role="img" aria-label={does ? say(does.words, units) : ""}>
      {does && <title>{say(does.words, units)}</title>}
      <Patterns id={mine} unit={4} ink={ink} />
      <rect x={1} y={1} width={42} height={44} fill={fill} stroke={ink.ink} />
      {family === "cover" && [10, 28].slice(0, (row as Materials["covers"][number]).skins).map((y) => <path key={y} d={`M5 ${y}h34M5 ${y + 6}h34`} stroke={ink.glass} strokeWidth={1.6} />)}
      {family === "mirror" && <><path d="M6 22h32" stroke={ink.ink} strokeWidth={4} /><MirrorTicks outline={[[38, 24], [6, 24]]} unit={4} colour={ink.ink} /></>}
      <path d="M54 4V42H100" fill="none" stroke={ink.soft} />
      <path d={`M54 42L${points.join("L")}L100 42Z`} fill={ink.sun} opacity={0.25} />
      <path d={`M${points.join("L")}`} fill="none" stroke={ink.ink} strokeWidth={1.8} />
    </svg>
  );
}

/** What insulates so well is drawn as foam. */
const FOAMY_W_MK = 0.07;

const percent = (share: number) => `${Math.round(share * 100)} %`;

function numbersOf(family: Family, row: Material, through: number, units: Units): string[] {
  const last = [`lasts to ${withUnit(row.top_service_c, "temperature", units)}`, row.food_safe ? "fit near food" : "not near food", row.price_m2 > 0 ? `about ${withUnit(row.price_m2, "price", units)} for ${withUnit(1, "area", units)}` : named("salvage")];
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
