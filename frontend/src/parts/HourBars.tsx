import { Box } from "@mui/material";

/** Bars by the hour, each with what it stands for above and its hour below. */
export interface HourBar {
  key: string;
  over: string;
  share: number;
  under: string;
  title: string;
  chosen?: boolean;
}

export function HourBars({ label, bars }: { label: string; bars: HourBar[] }) {
  return (
    <Box tabIndex={0} role="group" aria-label={label} className="flex gap-0_5 items-end my-1 overflow-x-auto">
      {bars.map((bar) => (
        <Box key={bar.key} className="width-44 centred size-12 flex-none" title={bar.title}>
          <span>{bar.over}</span>
          <Box aria-hidden sx={(t) => ({ height: `${4 + 44 * bar.share}px`, background: bar.chosen ? t.ink.ink : t.ink.sun, border: `1px solid ${t.ink.ink}` })} />
          <span>{bar.under}</span>
        </Box>
      ))}
    </Box>
  );
}
