import { Box, Button, Typography } from "@mui/material";
import type { ReactNode } from "react";
import type { Proposal, Section } from "../../api/client";
import { usePrefs } from "../../look/prefs";
import { say, withUnit, type Sentence } from "../../look/units";
import { Drawn } from "./Drawn";

interface Props {
  title: string;
  drawn: Section;
  scale: number;
  words: Sentence[];
  costs: Pick<Proposal, "price" | "buy" | "hours" | "uses" | "to_buy">;
  beyond?: Sentence[];
  children?: ReactNode;
  pending: boolean;
  onBegin: () => void;
}

/** A build that somebody might begin with: drawn, what it does, what it costs, what of the pile goes into it. */
export function Offer({ title, drawn, scale, words, costs, beyond = [], children, pending, onBegin }: Props) {
  const { units } = usePrefs();
  const { price, buy, hours, uses, to_buy } = costs;
  return (
    <Box component="section" aria-label={`${title}, proposed`} className="flex column gap-0_5 border-1-rule p-1_5">
      <Drawn drawn={drawn} scale={scale} />
      <Typography variant="h2">{title}</Typography>
      {children}
      {words.map((w, k) => <Typography key={k} className={k === 0 ? "weight-650" : ""}>{say(w, units)}</Typography>)}
      {beyond.map((w, k) => <Typography key={k} className="border-left-6-stop pl-1">{say(w, units)}</Typography>)}
      <Typography><b>{withUnit(buy, "price", units)}</b> to buy{Math.abs(price - buy) > 0.005 && ` (${withUnit(price, "price", units)} all new)`}, some {withUnit(hours, "hours", units)} of work.</Typography>
      {uses.length > 0 && <Typography variant="body2">Of what you have: {uses.map((u) => say(u, units)).join(" ")}</Typography>}
      {to_buy.length > 0 && (
        <Box component="details">
          <Typography component="summary" variant="body2" className="cursor-pointer">To buy: {to_buy.length} sorts</Typography>
          <Box component="ul" className="m-0 pl-2_25 size-14">
            {to_buy.map((b, k) => <li key={k}>{b.count} × {b.title}, {b.of.toLowerCase()}: {withUnit(b.price, "price", units)}</li>)}
          </Box>
        </Box>
      )}
      <Box className="flex-1" />
      <Button className="align-self-start" variant="contained" disabled={pending} onClick={onBegin} aria-label={`Begin with this: ${title}`}>Begin with this</Button>
    </Box>
  );
}
