import createClient from "openapi-fetch";
import { begun } from "./begun";
import type { components, paths } from "./schema";

/** The API's client, and the one error that every refused request becomes. */
export const client = createClient<paths>({ baseUrl: "/" });
client.use(begun);

type Schemas = components["schemas"];
export type RevisionView = Schemas["RevisionView"];
export type BuildView = Schemas["BuildView"];
export type Spec = BuildView["spec"];
export type Load = NonNullable<BuildView["load"]>;
export type Kinds = Schemas["Kinds"];
export type Kind = Schemas["KindView"];
export type LoadKind = Schemas["LoadView"];
export type FieldForm = Schemas["FieldForm"];
export type Family = Materials["own"][number]["family"];
/** A row of the shelf that a part may be made of. */
export type Material = Materials["absorbers"][number] | Materials["covers"][number] | Materials["mirrors"][number] | Materials["layers"][number];
export type Line = Schemas["Line"];
export type ReadPlace = Schemas["ReadPlace"];
export type SiteView = Schemas["SiteView"];
export type Site = SiteView["site"];
export type Place = Schemas["Place"];
export type Outcome = Schemas["DayAnswer"]["outcome"];
export type DayAnswer = Schemas["DayAnswer"];
export type TwinRequest = Schemas["TwinRequest"];
export type Section = Schemas["Section"];
export type Strip = Schemas["Strip"];
export type Yard = Schemas["Yard"];
export type TrialView = Schemas["TrialView"];
export type NewChannel = Schemas["NewChannel"];
export type ChannelView = TrialView["channels"][number];
export type Verdict = Schemas["Verdict"];
export type ImportPreview = Schemas["ImportPreview"];
export type TrialBook = Schemas["TrialBook"];
export type SeriesAnswer = Schemas["SeriesAnswer"];
export type Fit = NonNullable<Verdict["fit"]>;
export type EventKind = TrialView["events"][number]["kind"];
export type Materials = Schemas["Materials"];
export type FlapYear = Schemas["FlapYear"];
export type BrightPatch = Schemas["BrightPatch"];
export type PatchDay = Schemas["PatchDay"];
export type Weakest = Schemas["Weakest"];
export type SchoolAnswer = Schemas["SchoolAnswer"];
export type SayingLine = Schemas["SayingLine"];
export type DirectAnswers = Schemas["DirectAnswers"];
export type MealPlan = Schemas["MealPlan"];
export type YearPlan = Schemas["YearPlan"];
export type TurningCurve = Schemas["TurningCurve"];
export type Aimed = Schemas["Aimed"];
export type AimAnswer = Schemas["AimAnswer"];
export type SumView = Schemas["SumView"];
export type SumCurve = Schemas["SumCurve"];
export type SkyState = NonNullable<TwinRequest["sky"]>;
export type DayWeather = Schemas["DayWeather"];
export type ClearDay = DayWeather["usual"];
export type FlowCurve = Schemas["FlowCurve"];
export type SeasonWon = Schemas["SeasonWon"];
export type Unreadable = Schemas["UnreadableView"];
export type JobView = Schemas["JobView"];
export type Queue = Schemas["Queue"];
export type MadeOf = Schemas["MadeOf"];
export type BillView = Schemas["BillView"];
export type Wish = Schemas["Wish"];
export type Proposal = Schemas["Proposal"];
export type Could = Schemas["Could"];
export type WholeYear = Schemas["WholeYear"];
export type StandingLine = Schemas["StandingLine"];
export type Share = Schemas["ShareView"];
export type Invitation = Schemas["InvitationView"];
export type SectionDay = Schemas["SectionDay"];
export type Found = Schemas["Found"];
export type CanDo = Schemas["CanDo"];
export type Tick = Schemas["Tick"];
export type ClassView = Schemas["ClassView"];
export type Compared = Schemas["Compared"];
export type Explained = Schemas["Explained"];
export type YardPreview = Schemas["YardPreview"];
export type Chance = Schemas["Chance"];
export type LogDays = Schemas["LogDays"];
export type SheetView = Schemas["SheetView"];
export type SheetRowView = Schemas["RowView"];
export type SheetOf = "trial" | "build" | "site";
export type Flag = Outcome["flags"][number];

export interface FieldProblem {
  field: string;
  message: string;
}

export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly fields: FieldProblem[],
    /** What sort of problem it is, where the server has a name for it. */
    readonly type = "about:blank",
  ) {
    super(detail);
  }

  /** Itself where something of it is about none of the fields that say their own; else nothing more is to be said. */
  besides(isShown: (field: string) => boolean): ApiProblem | null {
    return this.fields.length > 0 && this.fields.every((f) => isShown(f.field)) ? null : this;
  }

  /** The sentence for a field by the end of its path, if this problem is about it. */
  about(field: string): string | undefined {
    return this.fields.find((f) => f.field === field || f.field.endsWith(`.${field}`))?.message;
  }
}

/** Unwrap an answer, or throw what the server said in its own words. */
export async function answered<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result;
  try {
    result = await call;
  } catch {
    throw new ApiProblem(0, "The server does not answer. What you typed is kept here; it is sent when the server is back.", []);
  }
  if (result.data !== undefined && result.response.ok) return result.data;
  const body = (result.error ?? {}) as { type?: string; detail?: string; errors?: FieldProblem[] };
  throw new ApiProblem(result.response.status, body.detail ?? `The server answered ${result.response.status}.`, body.errors ?? [], body.type);
}

export function asProblem(error: unknown): ApiProblem {
  return error instanceof ApiProblem ? error : new ApiProblem(0, error instanceof Error ? error.message : String(error), []);
}
