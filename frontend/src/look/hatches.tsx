import { useTheme } from "@mui/material";
import { useInks } from "./inks";
import type { Kind } from "../api/client";

/** Lines of the ledger told apart twice over: by ink, and by hatch, so that no two that stand side by side look alike. */
type Account = Kind["accounts"][number];
const SIZE = 8;
const HATCHES = ["", "M0 8L8 0M-2 2L2 -2M6 10L10 6", "M2 2h0.1M6 6h0.1", "M0 0L8 8M-2 6L2 10M6 -2L10 2", "M0 4h8", "M4 0v8", "M0 2h8M0 6h8", "M0 0L8 8M8 0L0 8"];

/** Which hatch a line of the ledger has: its place among the others, so that neighbours never share one. */
const hatchOf = (place: number) => HATCHES[place % HATCHES.length]!;

export const accountFill = (id: string, name: string) => `url(#${id}-${name})`;

/** Patterns that fill what belongs to a line of the ledger; inside an svg. */
export function AccountPatterns({ id, accounts, accent }: { id: string; accounts: Account[]; accent: Kind["accent"] }) {
  const inkOf = useInks(accent);
  const { ink } = useTheme();
  return (
    <defs>
      {accounts.map((account, i) => (
        <pattern key={account.name} id={`${id}-${account.name}`} width={SIZE} height={SIZE} patternUnits="userSpaceOnUse">
          <rect width={SIZE} height={SIZE} fill={inkOf(account.ink)} />
          <path d={hatchOf(i)} stroke={`color-mix(in oklab, ${inkOf(account.ink)} 35%, ${i % 2 ? ink.paper : ink.ink})`} strokeWidth={1.6} strokeLinecap="round" fill="none" />
        </pattern>
      ))}
    </defs>
  );
}
