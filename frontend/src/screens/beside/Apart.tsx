import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import type { Explained } from "../../api/client";
import { besideApartQuery, type Beside } from "../../api/queries";
import { usePrefs } from "../../look/prefs";
import { say, withUnit } from "../../look/units";
import { Asked } from "../../parts/Asked";
import { Problem, Waiting } from "../../parts/Problem";

/** Why each of the others is not like the first: the part of each thing that differs. */
export function Apart({ names, titles, asked }: { names: string[]; titles: string[]; asked: Beside }) {
  return (
    <>
      {names.slice(1).map((name, k) => (
        <Asked key={name} title={`Why ${titles[k + 1]} is not like ${titles[0]}`} door="The part of each difference"><Parts one={name} other={names[0]!} asked={asked} /></Asked>
      ))}
    </>
  );
}

function Parts({ one, other, asked }: { one: string; other: string; asked: Beside }) {
  const { data, error } = useQuery(besideApartQuery(one, other, asked));
  if (error) return <Problem error={error} />;
  return data ? <ExplainedTable found={data} /> : <Waiting what="Making each of them alike alone" />;
}

/** Causes of a difference, each with its part. */
export function ExplainedTable({ found }: { found: Explained }) {
  const { units } = usePrefs();
  return (
    <Box className="overflow-x-auto">
      <Typography className="weight-650" aria-live="polite">{say(found.words, units)}</Typography>
      {found.parts.length > 0 && <Box component="table" className="ruled" aria-label="the part of each">
        <thead><tr><th scope="col">cause</th><th scope="col">what differs</th><th scope="col">its part</th><th scope="col">hotter by</th></tr></thead>
        <tbody>
          {found.parts.map((p) => (
            <tr key={p.part + p.title}>
              <th scope="row">{p.title}</th>
              <td>{p.told.map((t, k) => <Box key={k} component="span" className="display-block">{say(t, units)}</Box>)}</td>
              <td><b>{withUnit(p.gain, found.quantity, units, { doubt: p.doubt, signed: true })}</b></td>
              <td>{withUnit(p.warmer_k, "difference", units, { signed: true })}</td>
            </tr>
          ))}
          {found.rest_k != null && <tr><th scope="row">left over</th><td>no cause explains it{found.rest_counts ? "" : "; within its doubt"}</td><td /><td>{withUnit(found.rest_k, "difference", units, { signed: true, ...(found.read_doubt_k == null ? {} : { doubt: found.read_doubt_k }) })}</td></tr>}
        </tbody>
      </Box>}
    </Box>
  );
}
