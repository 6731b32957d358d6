import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { heavyQuery } from "./heavy";
import { answered, asProblem, client, type Compared, type Load, type Section, type SectionDay, type SheetOf, type SkyState, type Spec, type TwinRequest } from "./client";

interface KnownClock {
  now: string;
  is_demo: boolean;
  weather_service: boolean;
  aheadMs: number;
}

const CLOCK = "drylamp.clock";

function keepClock(clock: KnownClock): void {
  try {
    localStorage.setItem(CLOCK, JSON.stringify(clock));
  } catch {
    // Without storage a page that is opened without the network has no clock.
  }
}

function keptClock(): KnownClock | null {
  try {
    return JSON.parse(localStorage.getItem(CLOCK) ?? "null") as KnownClock | null;
  } catch {
    return null;
  }
}

/** Query keys and fetchers, made together; one definition per question. */
export const nowQuery = queryOptions({
  queryKey: ["now"],
  queryFn: async () => {
    const asked = performance.now();
    try {
      const view = await answered(client.GET("/api/now"));
      const told = { ...view, atMs: Date.parse(view.now), perfMs: (asked + performance.now()) / 2 };
      keepClock({ ...view, aheadMs: told.atMs - Date.now() });
      return told;
    } catch (error) {
      // Without the network the device's own clock goes on, as far ahead as the server's was.
      const before = keptClock();
      if (!before || asProblem(error).status !== 0) throw error;
      const atMs = Date.now() + before.aheadMs;
      return { ...before, now: new Date(atMs).toISOString(), atMs, perfMs: performance.now() };
    }
  },
  staleTime: 10 * 60_000,
});

/** What the server is busy with; asked again until it is ready. */
export const healthQuery = queryOptions({
  queryKey: ["health"],
  queryFn: () => answered(client.GET("/api/health")),
  staleTime: 500,
  refetchInterval: (query) => (query.state.data?.state === "ready" ? false : 700),
});

/** What somebody may mean by a few letters. */
export const findQuery = (siteId: number, q: string) =>
  queryOptions({
    queryKey: ["find", siteId, q],
    queryFn: ({ signal }) => answered(client.GET("/api/find", { params: { query: { site_id: siteId, q } }, signal })),
    placeholderData: keepPreviousData,
    staleTime: 5000,
    retry: false,
  });

/** How the house's network comes in, and who was let in. */
export const shareQuery = queryOptions({
  queryKey: ["share"],
  queryFn: () => answered(client.GET("/api/share")),
  staleTime: 2000,
});

export const kindsQuery = queryOptions({
  queryKey: ["kinds"],
  queryFn: () => answered(client.GET("/api/kinds")),
  staleTime: Infinity,
});

/** What may be typed into each kind. */
export const formsQuery = queryOptions({
  queryKey: ["forms"],
  queryFn: () => answered(client.GET("/api/kinds/forms")),
  staleTime: Infinity,
});

export const linesQuery = (spec: Spec, load: Load | null, protocol: string) =>
  queryOptions({
    queryKey: ["lines", spec, load, protocol],
    queryFn: () => answered(client.POST("/api/trials/lines", { body: { spec, load, protocol } })),
    staleTime: Infinity,
  });

export const sitesQuery = queryOptions({
  queryKey: ["sites"],
  queryFn: () => answered(client.GET("/api/sites")),
});

/** Towns by the beginning of a name, or the one place of coordinates. */
export const placesQuery = (q: string) =>
  queryOptions({
    queryKey: ["places", q],
    queryFn: ({ signal }) => answered(client.GET("/api/places", { params: { query: { q } }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

export const startersQuery = (id: number) =>
  queryOptions({
    queryKey: ["starters", id],
    queryFn: () => answered(client.GET("/api/sites/{id}/starters", { params: { path: { id } } })),
  });

export const sheetsQuery = (of: SheetOf, id: number) =>
  queryOptions({
    queryKey: ["sheets", of, id],
    queryFn: () => answered(client.GET("/api/sheets/{of}/{owner_id}", { params: { path: { of, owner_id: id } } })),
  });

export const materialsQuery = queryOptions({
  queryKey: ["materials"],
  queryFn: () => answered(client.GET("/api/materials")),
  staleTime: Infinity,
});

export const bookQuery = queryOptions({
  queryKey: ["book"],
  queryFn: () => answered(client.GET("/api/trials/book")),
  staleTime: Infinity,
});

export const sumsQuery = queryOptions({
  queryKey: ["sums"],
  queryFn: () => answered(client.GET("/api/sums")),
  staleTime: Infinity,
});

export const stripQuery = (siteId: number, day: string) =>
  queryOptions({
    queryKey: ["strip", siteId, day],
    queryFn: () => answered(client.GET("/api/sites/{id}/strip", { params: { path: { id: siteId }, query: { day } } })),
    placeholderData: keepPreviousData,
  });

/** What is known of a day beforehand: as typed, and as is usual. */
export const knownQuery = (siteId: number, day: string) =>
  queryOptions({
    queryKey: ["known", siteId, day],
    queryFn: () => answered(client.GET("/api/sites/{id}/days/{day}", { params: { path: { id: siteId, day } } })),
    staleTime: 60_000,
  });

export const yardQuery = (siteId: number, day: string) =>
  queryOptions({
    queryKey: ["yard", siteId, day],
    queryFn: () => answered(client.GET("/api/sites/{id}/yard", { params: { path: { id: siteId }, query: { day } } })),
    placeholderData: keepPreviousData,
  });

/** Where everything that stays over days stands; ``mark`` changes with what is in it. */
export const standingQuery = (siteId: number, day: string, mark: string) => heavyQuery("/api/sites/{id}/yard/standing", { day, sky: null }, ["standing", siteId, day, mark], siteId);

export const weatherFilesQuery = (siteId: number) =>
  queryOptions({
    queryKey: ["weather", siteId],
    queryFn: () => answered(client.GET("/api/sites/{id}/weather-files", { params: { path: { id: siteId } } })),
  });

export const unreadableQuery = queryOptions({
  queryKey: ["unreadable"],
  queryFn: () => answered(client.GET("/api/unreadable")),
  staleTime: 60_000,
});

export const buildsQuery = (siteId: number) =>
  queryOptions({
    queryKey: ["builds", siteId],
    queryFn: () => answered(client.GET("/api/builds", { params: { query: { site: siteId } } })),
  });

export const buildQuery = (id: number) =>
  queryOptions({
    queryKey: ["build", id],
    queryFn: () => answered(client.GET("/api/builds/{id}", { params: { path: { id } } })),
  });

/** What a build is made of at a revision. */
export const madeOfQuery = (id: number, revision: number) =>
  queryOptions({
    queryKey: ["bill", id, revision],
    queryFn: () => answered(client.GET("/api/builds/{id}/bill", { params: { path: { id } } })),
    placeholderData: keepPreviousData,
  });

/** Builds that were put away or deleted. */
export const awayQuery = (siteId: number) =>
  queryOptions({
    queryKey: ["builds", siteId, "away"],
    queryFn: () => answered(client.GET("/api/builds", { params: { query: { site: siteId, away: true } } })),
  });

/** Builds of the made-up yard. */
export const examplesQuery = queryOptions({
  queryKey: ["examples"],
  queryFn: () => answered(client.GET("/api/builds/examples")),
  staleTime: Infinity,
});

export const revisionsQuery = (id: number, revision: number) =>
  queryOptions({
    queryKey: ["revisions", id, revision],
    queryFn: () => answered(client.GET("/api/builds/{id}/revisions", { params: { path: { id } } })),
    placeholderData: keepPreviousData,
  });

export const dayQuery = (request: TwinRequest) =>
  queryOptions({
    queryKey: ["day", request],
    queryFn: ({ signal }) => answered(client.POST("/api/twin/day", { body: request, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

/** The drawing through the day, asked for ahead of whoever draws the lamp along. */
export const sectionDayQuery = (request: TwinRequest) =>
  queryOptions({
    queryKey: ["section-day", request],
    queryFn: ({ signal }) => answered(client.POST("/api/twin/section-day", { body: request, signal })) as Promise<SectionDay>,
    staleTime: Infinity,
    retry: false,
  });

export const sectionQuery = (request: TwinRequest, at: string) =>
  queryOptions({
    queryKey: ["section", request, at],
    // openapi-fetch widens pairs of numbers to lists; the document says pairs.
    queryFn: ({ signal }) => answered(client.POST("/api/twin/section", { body: { ...request, at }, signal })) as Promise<unknown> as Promise<Section>,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

export const patchDayQuery = (request: TwinRequest) =>
  queryOptions({
    queryKey: ["patch-day", request.site_id, request.day, request.spec, request.load],
    queryFn: ({ signal }) => answered(client.POST("/api/twin/patch-day", { body: request, signal })),
    placeholderData: keepPreviousData,
  });

export const patchQuery = (request: TwinRequest, at: string) =>
  queryOptions({
    queryKey: ["patch", request.site_id, request.spec, request.load, at],
    queryFn: ({ signal }) => answered(client.POST("/api/twin/patch", { body: { ...request, at }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

const advice = { placeholderData: keepPreviousData, staleTime: Infinity, retry: false } as const;

export const directQuery = (request: TwinRequest) => heavyQuery("/api/advice/direct", request);
export const weakestQuery = (request: TwinRequest) => heavyQuery("/api/advice/weakest", request);

export const schoolsQuery = (request: TwinRequest) => heavyQuery("/api/advice/schools", request);

export const sayingsQuery = (request: TwinRequest) => heavyQuery("/api/advice/sayings", request);

export const turningQuery = (request: TwinRequest) => heavyQuery("/api/advice/turning", request);

export const aimedQuery = (request: TwinRequest, at: string) =>
  queryOptions({ queryKey: ["aimed", request, at], queryFn: ({ signal }) => answered(client.POST("/api/advice/pointing", { body: { ...request, at }, signal })), ...advice });

export const flapYearQuery = (request: TwinRequest) => heavyQuery("/api/advice/flap-year", request);

export const tiltYearQuery = (request: TwinRequest) => heavyQuery("/api/advice/tilt-year", request);

export const flowQuery = (request: TwinRequest, at: string) =>
  queryOptions({ queryKey: ["flow", request, at], queryFn: ({ signal }) => answered(client.POST("/api/advice/flow", { body: { ...request, at }, signal })), ...advice });

export const greyQuery = (request: TwinRequest) => heavyQuery("/api/advice/grey", request);

export const timerQuery = (request: TwinRequest) => heavyQuery("/api/advice/timer", request);

export const readyByQuery = (request: TwinRequest) => heavyQuery("/api/advice/ready-by", request);

export const seasonQuery = (request: TwinRequest) => heavyQuery("/api/advice/season", request);

export const nightQuery = (request: TwinRequest) => heavyQuery("/api/advice/night", request);

export const howManyQuery = (request: TwinRequest, rise_k: number, weeks: number) => heavyQuery("/api/advice/how-many", { ...request, rise_k, weeks });

export const putOutQuery = (request: TwinRequest) => heavyQuery("/api/advice/put-out", request);

export const boilsQuery = (request: TwinRequest) => heavyQuery("/api/advice/boils", request);

export const insteadQuery = (request: TwinRequest, heater_kw: number, price_kwh: number) => heavyQuery("/api/advice/instead", { ...request, heater_kw, price_kwh });

export const batchQuery = (request: TwinRequest) => heavyQuery("/api/advice/batch", request);

export const nightsQuery = (request: TwinRequest) => heavyQuery("/api/advice/nights", request);

export const weeklyQuery = (request: TwinRequest, wanted_kg: number, month: number) => heavyQuery("/api/advice/weekly", { ...request, wanted_kg, month });

export const basketQuery = (request: TwinRequest, food: string, litres: number) =>
  queryOptions({
    queryKey: ["basket", request, food, litres],
    queryFn: ({ signal }) => answered(client.POST("/api/advice/basket", { body: { ...request, food, litres }, signal })), ...advice,
  });

export const ventQuery = (request: TwinRequest) => heavyQuery("/api/advice/vent", request);

export const chargeQuery = (request: TwinRequest) => heavyQuery("/api/advice/charge", request);

export const todayQuery = (request: TwinRequest) => heavyQuery("/api/advice/today", request);

export const weeksQuery = (request: TwinRequest) => heavyQuery("/api/advice/weeks", request);

export const chargeSizesQuery = (request: TwinRequest) => heavyQuery("/api/advice/charge-sizes", request);

export const chargeLinksQuery = (request: TwinRequest) => heavyQuery("/api/advice/charge-links", request);

export const sawQuery = (request: TwinRequest) =>
  queryOptions({ queryKey: ["saw", request], queryFn: ({ signal }) => answered(client.POST("/api/advice/saw", { body: request, signal })), ...advice });

export const moneyQuery = (request: TwinRequest, build_id: number) => heavyQuery("/api/advice/money", { ...request, build_id }, ["build", build_id, "money", request]);

export const backupQuery = (request: TwinRequest, power_w: number, kwh_price: number) => heavyQuery("/api/advice/backup", { ...request, power_w, kwh_price });

export const buildingQuery = (request: TwinRequest, pane_wide_m: number | null, pane_high_m: number | null) =>
  queryOptions({ queryKey: ["building", request, pane_wide_m, pane_high_m], queryFn: ({ signal }) => answered(client.POST("/api/advice/building", { body: { ...request, pane_wide_m, pane_high_m }, signal })), ...advice });

export const repairsQuery = (request: TwinRequest, build_id: number) => heavyQuery("/api/advice/repairs", { ...request, build_id }, ["build", build_id, "repairs", request]);

export interface Promised { other: TwinRequest["spec"] | null; area_m2: number | null; absorber: "plate" | "mesh" | "screens" | "ducts" | null; promised_c: number | null }

export const apartQuery = (request: TwinRequest, promised: Promised) => heavyQuery("/api/advice/apart", { ...request, ...promised });

export const aheadQuery = (request: TwinRequest) => heavyQuery("/api/twin/ahead", request);

export const mealQuery = (request: TwinRequest, wanted: string) => heavyQuery("/api/advice/meal", { ...request, wanted });

export const yearQuery = (request: TwinRequest) => heavyQuery("/api/advice/year", request, ["year", { ...request, day: request.day.slice(0, 4), weather: null, sky: null }]);

export const stockQuery = (request: TwinRequest, stock_kg: number, until: string) => heavyQuery("/api/advice/stock", { ...request, stock_kg, until });

export const monthsQuery = (request: TwinRequest) => heavyQuery("/api/twin/months", request, ["months", { ...request, day: request.day.slice(0, 4), weather: null }]);

export const chanceQuery = (request: TwinRequest) => heavyQuery("/api/advice/chance", { ...request, years: 30 });

/** Depends on the rows of the site too: they are part of its key. */
export const queueQuery = (request: TwinRequest, rows: unknown) => heavyQuery("/api/advice/queue", request, ["queue", request, rows]);

export const aimQuery = (siteId: number, spot: string | null, tilt: number, facing: number, day: string) =>
  queryOptions({
    queryKey: ["aim", siteId, spot, tilt, facing, day],
    queryFn: () =>
      answered(client.POST("/api/twin/aim", { body: { site_id: siteId, spot, tilt_deg: tilt, facing_deg: facing, day } })),
    placeholderData: keepPreviousData,
    retry: false,
  });

export const trialsQuery = (buildId: number) =>
  queryOptions({
    queryKey: ["trials", buildId],
    queryFn: () => answered(client.GET("/api/trials", { params: { query: { build: buildId } } })),
  });

export const trialQuery = (id: number) =>
  queryOptions({
    queryKey: ["trial", id],
    queryFn: () => answered(client.GET("/api/trials/{id}", { params: { path: { id } } })),
  });

export const runningQuery = queryOptions({
  queryKey: ["trials", "running"],
  queryFn: () => answered(client.GET("/api/trials", { params: { query: { running: true } } })),
  refetchInterval: 30_000,
});

/** The readings of a stretch of a trial; the trial's own mark says when there is something new to draw. */
export const seriesQuery = (id: number, mark: string, stretch: [number, number] | null, points: number) =>
  queryOptions({
    queryKey: ["series", id, mark, stretch, points],
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/trials/{id}/series", {
          params: { path: { id }, query: stretch ? { start: new Date(stretch[0]).toISOString(), end: new Date(stretch[1]).toISOString(), points } : { points } },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const logDaysQuery = (id: number, mark: string) =>
  queryOptions({ queryKey: ["trial", id, "days", mark], queryFn: () => answered(client.GET("/api/trials/{id}/days", { params: { path: { id } } })), placeholderData: keepPreviousData });

export const fitQuery = (id: number, mark: string, parameters: string[]) =>
  queryOptions({
    queryKey: ["fit", id, mark, parameters],
    queryFn: () => answered(client.POST("/api/trials/{id}/fit", { params: { path: { id } }, body: { parameters } })),
    placeholderData: keepPreviousData,
    retry: false,
  });

export const compareQuery = (id: number, control: number, node: string) =>
  queryOptions({
    queryKey: ["compare", id, control, node],
    queryFn: () => answered(client.GET("/api/trials/{id}/compare", { params: { path: { id }, query: { control, node } } })),
    retry: false,
  });

export const changedQuery = (id: number, control: number) =>
  queryOptions({
    queryKey: ["changed", id, control],
    queryFn: () => answered(client.GET("/api/trials/{id}/changed", { params: { path: { id }, query: { control } } })),
    retry: false,
  });

/** Whose box of a class ran hottest; ``mark`` changes with its readings. */
export const classQuery = (id: number, mark: string) =>
  queryOptions({
    queryKey: ["class", id, mark],
    queryFn: () => answered(client.GET("/api/classes/{id}", { params: { path: { id } } })),
    placeholderData: keepPreviousData,
  });

/** What stands side by side, and under which sun. */
export interface Beside {
  of: string;
  day: string;
  sky: SkyState | null;
  one_load: boolean;
}

const dayOfBeside = ({ day, sky }: Beside) => ({ day, ...(sky ? { sky } : {}) });

export const besideQuery = (asked: Beside) =>
  queryOptions({
    queryKey: ["builds", "beside", asked],
    queryFn: () => answered(client.GET("/api/beside", { params: { query: { of: asked.of, one_load: asked.one_load, ...dayOfBeside(asked) } } })) as Promise<Compared>,
    retry: false,
  });

export const besideApartQuery = (one: string, other: string, asked: Beside) =>
  queryOptions({
    queryKey: ["builds", "beside-apart", one, other, asked],
    queryFn: () => answered(client.GET("/api/beside/apart", { params: { query: { one, other, ...dayOfBeside(asked) } } })),
    retry: false,
  });

export const verdictQuery = (id: number, mark: string, wallM2 = 1) =>
  queryOptions({
    queryKey: ["verdict", id, mark, wallM2],
    queryFn: () => answered(client.GET("/api/trials/{id}/verdict", { params: { path: { id }, query: { wall_m2: wallM2 } } })),
    // Of the same trial: another's words are no verdict of this one.
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
    retry: false,
  });

export const wishWordsQuery = queryOptions({
  queryKey: ["wish-words"],
  queryFn: () => answered(client.GET("/api/wishes/words")),
  staleTime: Infinity,
});

export const wishQuery = (siteId: number, text: string) =>
  queryOptions({
    queryKey: ["wish", siteId, text],
    queryFn: ({ signal }) => answered(client.POST("/api/wishes/read", { body: { site_id: siteId, text }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

export const proposalsQuery = (siteId: number, day: string, text: string) => heavyQuery("/api/wishes/proposals", { site_id: siteId, day, text });
/** What the pile allows; ``mark`` changes with the pile. */
export const couldQuery = (siteId: number, day: string, mark: string) => heavyQuery("/api/wishes/could", { site_id: siteId, day }, ["could", siteId, day.slice(0, 7), mark]);

/** A year of a build at a place; ``mark`` changes with what was written of its use. */
export const wholeYearQuery = (request: TwinRequest & { build_id: number }, mark: string) => heavyQuery("/api/advice/whole-year", request, ["whole-year", { ...request, day: request.day.slice(0, 4) }, mark]);

export const twoPlacesQuery = (request: TwinRequest & { build_id: number; there: number }, mark: string) => heavyQuery("/api/advice/two-places", request, ["two-places", { ...request, day: request.day.slice(0, 4) }, mark]);

/** What the yard can do on a day; ``mark`` changes with its builds. */
export const canDoQuery = (siteId: number, day: string, mark: string) => heavyQuery("/api/wishes/today", { site_id: siteId, day }, ["today", siteId, day, mark]);
/** How to leave a build alone; ``mark`` changes with the hours of the house. */
export const unattendedQuery = (request: TwinRequest, mark: string) => heavyQuery("/api/advice/unattended", request, ["unattended", request, mark]);
