import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { apartQuery, buildsQuery, type Promised } from "../../api/queries";
import { areAlike } from "../../kinds";
import { useHeavy } from "../../api/heavy";
import { useDay } from "../../look/day";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Choice } from "../../parts/Choice";
import { NumberField } from "../../parts/NumberField";
import { Problem } from "../../parts/Problem";
import { Progress } from "../../parts/Progress";
import { Words } from "./Words";
import type { BuildState } from "./useBuild";

const PROMISED_C = 65;
const FORMS = [
  { value: "", title: "as mine" }, { value: "plate", title: "black plate" }, { value: "mesh", title: "black fly screen" }, { value: "screens", title: "metal screens" }, { value: "ducts", title: "blackened ducts" },
];

/** Why it is not as hot as another build, or as was promised: each difference's share, and where the promise would be true. */
export function ApartPanel({ state }: { state: BuildState }) {
  const { siteId } = useDay();
  const { units } = usePrefs();
  const others = (useQuery(buildsQuery(siteId)).data ?? []).filter((b) => areAlike(b.spec, state.draft!.spec) && b.id !== state.build?.id);
  const [promised, setPromised] = useState<Promised>({ other: null, area_m2: null, absorber: null, promised_c: PROMISED_C });
  const [id, setId] = useState("");
  const asked = useHeavy(apartQuery(state.request!, promised));
  const { data, error } = asked;
  const temp = (value: number) => withUnit(value, "temperature", units);
  const apart = (value: number) => `${value > 0 ? "+" : ""}${withUnit(value, "difference", units)}`;
  const pick = (value: string) => {
    setId(value);
    setPromised({ ...promised, other: others.find((b) => String(b.id) === value)?.spec ?? null });
  };
  return (
    <Box>
      <Box className="flex wrap gap-1 mt-1">
        <Choice label="Held against" value={id} options={[{ value: "", title: "a promise as typed" }, ...others.map((b) => ({ value: String(b.id), title: b.name }))]} onChange={pick} />
        <NumberField label="Promised" value={promised.promised_c} quantity="temperature" onCommit={(value) => setPromised({ ...promised, promised_c: value })} onEmpty={() => setPromised({ ...promised, promised_c: null })} />
        <NumberField label="With a collector of" value={promised.area_m2} quantity="area" onCommit={(value) => setPromised({ ...promised, area_m2: value })} onEmpty={() => setPromised({ ...promised, area_m2: null })} />
        <Choice label="And an absorber of" value={promised.absorber ?? ""} options={FORMS} onChange={(value) => setPromised({ ...promised, absorber: (value || null) as Promised["absorber"] })} />
      </Box>
      {error ? <Problem error={error} /> : !data ? <Progress answer={asked} what="Swapping each difference in every order" /> : (
        <>
          <Words said={data.words} />
          {data.shares.length > 0 && (
            <Box component="table" className="ruled" aria-label="differences">
              <thead><tr><th scope="col">difference</th><th scope="col">here</th><th scope="col">there</th><th scope="col">explains</th><th scope="col">alone</th></tr></thead>
              <tbody>
                {data.shares.map((s) => (
                  <tr key={s.path}><th scope="row">{s.title}</th><td>{say(s.mine, units)}</td><td>{say(s.theirs, units)}</td><td><b>{apart(s.share_k)}</b></td><td>{apart(s.alone_k)}</td></tr>
                ))}
                <tr><th scope="row">left over</th><td colSpan={2}>no difference explains it</td><td>{apart(data.rest_k)}</td><td /></tr>
              </tbody>
            </Box>
          )}
          <Typography className="mt-1">{say(data.worth, units)} {say(data.good_for_food, units)}</Typography>
          <Box component="table" className="ruled" aria-label="where it would be true">
            <thead><tr><th scope="col">{temp(data.promised_c)} would be true</th><th scope="col">by the twin</th><th scope="col">true?</th></tr></thead>
            <tbody>{data.conditions.map((c) => <tr key={say(c.title, units)}><th scope="row">{say(c.title, units)}</th><td>{temp(c.celsius)}</td><td>{c.holds ? "yes" : "no"}</td></tr>)}</tbody>
          </Box>
        </>
      )}
    </Box>
  );
}
