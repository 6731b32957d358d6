import { useTheme } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import type { ComponentType } from "react";
import type { FieldForm, Kind, Load, LoadKind, Spec } from "../api/client";
import { formsQuery, kindsQuery } from "../api/queries";

/** Kinds of build: what the core says of each, and the little that was drawn by hand for some (`kinds/<kind>/index.tsx`). */
export interface HandMade {
  /** Strokes of its section in miniature, 20 by 16, leaning as it leans. */
  Glyph: ComponentType<{ leans: number }>;
}

const ROOMS = import.meta.glob<{ default: HandMade }>("./*/index.tsx", { eager: true });
const PLAIN: HandMade = { Glyph: () => <path d="M3 12h14M5 12V8h10v4M10 1v4M4 3l2 3M16 3l-2 3" /> };

export const handMade = (kind: string): HandMade => ({ ...PLAIN, ...ROOMS[`./${kind}/index.tsx`]?.default });

/** Every kind; whoever asks stands below the frame, which waits for them. */
function useKinds() {
  return useQuery(kindsQuery).data!;
}

/** Tells the kind of any build, where several stand together. */
export function useKindOf(): (spec: Spec) => Kind {
  const { builds } = useKinds();
  return (spec) => builds.find((k) => k.name === spec.kind)!;
}

export const useKind = (spec: Spec): Kind => useKindOf()(spec);

const NOTHING: FieldForm[] = [];

/** What may be typed into builds or loads of a kind; nothing until that has come. */
export function useForm(of: "builds" | "loads", name: string | undefined): FieldForm[] {
  return useQuery(formsQuery).data?.[of].find((form) => form.name === name)?.fields ?? NOTHING;
}

export function useLoads(kind: Kind): LoadKind[] {
  const { loads } = useKinds();
  return kind.loads.map((name) => loads.find((l) => l.name === name)!);
}

/** Tells what is in any build, as a kind; none while it is empty. */
export function useLoadOf(): (load: Load | null) => LoadKind | undefined {
  const { loads } = useKinds();
  return (load) => loads.find((l) => l.name === load?.kind);
}

export const useLoad = (load: Load | null): LoadKind | undefined => useLoadOf()(load);

/** Whether two builds are of one kind, so that they may be held against each other part by part. */
export const areAlike = (one: Spec, other: Spec): boolean => one.kind === other.kind;

/** Lines of its ledger: the build's own, then those of what is in it. */
export function useAccounts(spec: Spec, load: Load | null): Kind["accounts"] {
  return [...useKind(spec).accounts, ...(useLoad(load)?.accounts ?? [])];
}

const INK = { day: "#22201C", dusk: "#EFE7D6" };

/** Both shades of a kind's colour; ink until its build has come. */
export function useAccentOf(spec: Spec | undefined): Kind["accent"] {
  const kind = useKinds().builds.find((k) => k.name === spec?.kind);
  return kind ? kind.accent : INK;
}

/** The kind's own colour. */
export function useAccent(spec: Spec): string {
  const { palette } = useTheme();
  const { accent } = useKind(spec);
  return palette.mode === "dark" ? accent.dusk : accent.day;
}

/** A build's section in miniature. */
export function KindGlyph({ spec }: { spec: Spec }) {
  const { Glyph } = handMade(spec.kind);
  const colour = useAccent(spec);
  return (
    <svg width={20} height={16} viewBox="0 0 20 16" aria-hidden fill="none" stroke={colour} strokeWidth={1.4} style={{ flex: "none" }}>
      <Glyph leans={spec.tilt_deg} />
    </svg>
  );
}
