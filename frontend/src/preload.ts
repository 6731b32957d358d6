import type { QueryClient } from "@tanstack/react-query";
import { bookQuery, buildQuery, buildsQuery, formsQuery, kindsQuery, nowQuery, runningQuery, sitesQuery, stripQuery, trialQuery, trialsQuery, unreadableQuery, yardQuery } from "./api/queries";
import { dayOf } from "./look/clock";

/** Asks for what an address will show before the page for it is there: on opening, and when a pointer comes near a link. */
const SCREENS: Record<string, () => Promise<unknown>> = {
  yard: () => import("./screens/yard/YardScreen"),
  place: () => import("./screens/place/PlaceScreen"),
  shelf: () => import("./screens/shelf/ShelfScreen"),
  stacks: () => import("./screens/stacks/StacksScreen"),
  beside: () => import("./screens/beside/BesideScreen"),
  new: () => import("./screens/place/NewBuild"),
  builds: () => import("./screens/build/BuildScreen"),
  trials: () => import("./screens/trial/TrialScreen"),
};

const quiet = () => undefined;

async function ofSite(cache: QueryClient, siteId: number, search: string, isYard: boolean): Promise<void> {
  void cache.prefetchQuery(buildsQuery(siteId));
  const [now, sites] = await Promise.all([cache.ensureQueryData(nowQuery), cache.ensureQueryData(sitesQuery)]);
  const site = sites.find((s) => s.id === siteId)?.site;
  if (!site) return;
  const day = new URLSearchParams(search).get("day") ?? dayOf(now.atMs, site.time_zone);
  void cache.prefetchQuery(stripQuery(siteId, day));
  if (isYard) void cache.prefetchQuery(yardQuery(siteId, day));
}

export function preload(cache: QueryClient, address: string): void {
  const { pathname, search } = new URL(address, window.location.origin);
  const [, first, id, view] = pathname.split("/");
  const screen = SCREENS[first === "sites" ? (view ?? "") : (first ?? "")];
  if (screen) void screen().catch(quiet);
  for (const query of [sitesQuery, nowQuery, kindsQuery, unreadableQuery]) void cache.prefetchQuery(query as typeof sitesQuery);
  if (first === "" || first === undefined) {
    void SCREENS.yard!().catch(quiet);
    void cache.ensureQueryData(sitesQuery).then((sites) => sites[0] && ofSite(cache, sites[0].id, search, true)).catch(quiet);
  }
  if (first === "sites") void ofSite(cache, Number(id), search, view === "yard").catch(quiet);
  if (first === "builds") {
    void cache.prefetchQuery(formsQuery);
    void cache.prefetchQuery(trialsQuery(Number(id)));
    void cache.ensureQueryData(buildQuery(Number(id))).then((build) => ofSite(cache, build.site_id, search, false)).catch(quiet);
  }
  if (first === "trials") {
    void cache.prefetchQuery(bookQuery);
    void cache.prefetchQuery(runningQuery);
    void cache.ensureQueryData(trialQuery(Number(id))).then((trial) => cache.ensureQueryData(buildQuery(trial.build_id))).then((build) => ofSite(cache, build.site_id, search, false)).catch(quiet);
  }
}
