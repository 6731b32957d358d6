import { Box, Button, Typography } from "@mui/material";
import type { BoxOven, Materials } from "../../api/client";
import { usePrefs } from "../../look/prefs";
import { withUnit } from "../../look/units";
import { MaterialChoice, rowOf } from "../../parts/MaterialChoice";
import { NumberField } from "../../parts/NumberField";
import { ownOf, Row } from "./card";

type Cover = NonNullable<BoxOven["cover"]>;
type Sheet = Materials["covers"][number];
const WORDS = ["open", "1 layer", "2 layers", "3 layers"];
const PLAIN: Cover = { material: "window-glass", thickness_m: 0.004, layers: 1, gap_m: 0.015, more: [] };

/** What the shelf adds for show is no part of the material. */
function given(choice: string | Sheet): NonNullable<Cover["material"]> {
  if (typeof choice === "string") return choice;
  const row: Partial<Sheet> = { ...choice };
  delete row.transmittance;
  return row as NonNullable<Cover["material"]>;
}

/** How many sheets of what, and a further sheet of other stuff outside them. */
interface Props {
  spec: { cover?: Cover | null };
  materials: Materials;
  change: (next: { cover: Cover | null }, note: string) => void;
  about: (field: string) => string | undefined;
}

export function CoverCard({ spec, materials, change, about }: Props) {
  const { units } = usePrefs();
  const cover = spec.cover;
  const own = ownOf(materials, "cover");
  const more = cover?.more ?? [];
  const set = (next: Partial<Cover>, note: string) => change({ cover: { ...cover!, ...next } }, note);
  const row = cover && rowOf(cover.material ?? "window-glass", materials.covers);
  const room = cover ? 3 - (cover.layers ?? 1) - more.length : 0;
  return (
    <>
      <Typography variant="h2">Cover</Typography>
      <Box role="group" aria-label="cover layers" sx={{ display: "flex", gap: 0.5, mt: 1 }}>
        {WORDS.map((words, n) => {
          const here = (cover?.layers ?? 0) === n;
          const choose = () => change({ cover: n === 0 ? null : { ...(cover ?? PLAIN), layers: n, more: more.slice(0, 3 - n) } }, n === 0 ? "no cover" : `${n} cover layer${n > 1 ? "s" : ""}`);
          return <Button key={n} aria-pressed={here} variant={here ? "contained" : "outlined"} onClick={() => !here && choose()}>{words}</Button>;
        })}
      </Box>
      {cover && (
        <>
          <Row>
            <MaterialChoice
              label="Sheet" value={cover.material ?? "window-glass"} rows={materials.covers} own={own}
              onChange={(choice, sheet) => set({ material: given(choice), thickness_m: sheet.usual_thickness_m }, `cover of ${sheet.title}`)}
            />
            <NumberField label={row && (row.skins ?? 1) > 1 ? "Thickness of a skin" : "Thickness"} value={cover.thickness_m ?? 0.004} quantity="length" problem={about("thickness_m")} onCommit={(thickness_m) => set({ thickness_m }, "cover thickness")} />
            {((cover.layers ?? 1) > 1 || more.length > 0) && (
              <NumberField label="Gap between" value={cover.gap_m ?? 0.015} quantity="length" problem={about("gap_m")} onCommit={(gap_m) => set({ gap_m }, "cover gap")} />
            )}
          </Row>
          {more.map((sheet, i) => (
            <Box key={i} sx={{ display: "grid", gridTemplateColumns: "3fr 2fr auto", gap: 1, mt: 0.5, alignItems: "start" }}>
              <MaterialChoice
                label={`Outside it, sheet ${i + 1}`} value={sheet.material} rows={materials.covers} own={own}
                onChange={(choice, found) => set({ more: more.map((m, k) => (k === i ? { material: given(choice), thickness_m: found.usual_thickness_m } : m)) }, `outer sheet of ${found.title}`)}
              />
              <NumberField label="Thickness" value={sheet.thickness_m} quantity="length" problem={about(`more.${i}.thickness_m`)} onCommit={(thickness_m) => set({ more: more.map((m, k) => (k === i ? { ...m, thickness_m } : m)) }, "outer sheet thickness")} />
              <Button aria-label={`take outer sheet ${i + 1} off`} onClick={() => set({ more: more.filter((_, k) => k !== i) }, "outer sheet taken off")}>off</Button>
            </Box>
          ))}
          {room > 0 && <Button onClick={() => set({ more: [...more, { material: "fep-film", thickness_m: 0.00005 }] }, "outer sheet added")}>Add a sheet of other stuff outside</Button>}
          {row && (
            <Typography variant="body2">
              {"transmittance" in row && `One sheet lets ${Math.round(row.transmittance * 100)} of 100 W through square on. `}
              Lasts to about {withUnit(row.top_service_c, "temperature", units)}. Source: {row.source}.
            </Typography>
          )}
        </>
      )}
    </>
  );
}
