import { useQuery } from "@tanstack/react-query";
import { Fragment, lazy, Suspense, type ReactNode } from "react";
import { Navigate, Route, Routes, useParams } from "react-router";
import { buildQuery, buildsQuery, kindsQuery, nowQuery, sitesQuery, trialQuery, unreadableQuery } from "./api/queries";
import { DayProvider, useNow } from "./look/day";
import { Later } from "./parts/Later";
import { Problem, Waiting } from "./parts/Problem";
import { Shell } from "./parts/Shell";

const NewSite = lazy(async () => ({ default: (await import("./screens/place/NewSite")).NewSite }));
const YardScreen = lazy(() => import("./screens/yard/YardScreen"));
const PlaceScreen = lazy(() => import("./screens/place/PlaceScreen"));
const ShelfScreen = lazy(() => import("./screens/shelf/ShelfScreen"));
const BesideScreen = lazy(() => import("./screens/beside/BesideScreen"));
const StacksScreen = lazy(() => import("./screens/stacks/StacksScreen"));
const NewBuild = lazy(() => import("./screens/place/NewBuild"));
const BuildScreen = lazy(() => import("./screens/build/BuildScreen"));
const UnreadableScreen = lazy(() => import("./screens/unreadable/UnreadableScreen"));
const TrialScreen = lazy(() => import("./screens/trial/TrialScreen"));

/** Every view has its address; which site it belongs to follows from the address. */
export function App() {
  return (
    <Suspense fallback={<Waiting what="Opening" />}>
      <Routes>
        <Route path="/" element={<Home />} />
        <Route path="/another-place" element={<NewSite first={false} />} />
        <Route path="/sites/:siteId/yard" element={<OfSite><YardScreen /></OfSite>} />
        <Route path="/sites/:siteId/place" element={<OfSite><PlaceScreen /></OfSite>} />
        <Route path="/sites/:siteId/shelf" element={<OfSite><ShelfScreen /></OfSite>} />
        <Route path="/sites/:siteId/stacks" element={<OfSite><StacksScreen /></OfSite>} />
        <Route path="/sites/:siteId/beside" element={<OfSite><BesideScreen /></OfSite>} />
        <Route path="/sites/:siteId/new" element={<OfSite><NewBuild /></OfSite>} />
        <Route path="/builds/:buildId" element={<Navigate to="forecast" replace />} />
        <Route path="/builds/:buildId/:stage" element={<OfBuild><BuildScreen /></OfBuild>} />
        <Route path="/trials/:trialId" element={<OfTrial><TrialScreen /></OfTrial>} />
        <Route path="/cannot-be-read" element={<UnreadableScreen />} />
        <Route path="*" element={<Problem error={new Error("There is no such view. Go back to the yard.")} />} />
      </Routes>
    </Suspense>
  );
}

function Home() {
  const { data, error, refetch } = useQuery(sitesQuery);
  const broken = useQuery({ ...unreadableQuery, enabled: data?.length === 0 });
  if (error) return <Problem error={error} retry={() => void refetch()} />;
  if (!data || (data.length === 0 && broken.isLoading)) return <Waiting what="Opening the yard" />;
  if (data.length === 0 && broken.data?.length) return <Navigate to="/cannot-be-read" replace />;
  return data[0] ? <Navigate to={`/sites/${data[0].id}/yard`} replace /> : <NewSite />;
}

function Framed({ siteId, children }: { siteId: number; children: ReactNode }) {
  const { data: sites, error, refetch, isFetching } = useQuery(sitesQuery);
  const clock = useQuery(nowQuery);
  const kinds = useQuery(kindsQuery);
  const builds = useQuery(buildsQuery(siteId));
  const now = useNow();
  const row = sites?.find((s) => s.id === siteId);
  const trouble = error ?? clock.error ?? kinds.error;
  if (trouble) return <Problem error={trouble} retry={() => { void refetch(); void clock.refetch(); void kinds.refetch(); }} />;
  if (!sites || now === null || !kinds.data || builds.isLoading) return <Waiting what="Opening" />;
  if (!row && isFetching) return <Waiting what="Opening" />;
  if (!row) return <Problem error={new Error(`There is no site ${siteId}.`)} />;
  return (
    <Later instead={<Waiting what="Opening" />}>
      <DayProvider siteId={siteId} site={row.site} now={now}>
        <Shell>{children}</Shell>
      </DayProvider>
    </Later>
  );
}

/** What belongs to one thing is never shown under another's name: another site's or trial's page is begun anew. */
function OfSite({ children }: { children: ReactNode }) {
  const { siteId } = useParams();
  return <Framed siteId={Number(siteId)}><Fragment key={siteId}>{children}</Fragment></Framed>;
}

function OfBuild({ children }: { children: ReactNode }) {
  const { data, error } = useQuery(buildQuery(Number(useParams().buildId)));
  if (error) return <Problem error={error} />;
  return data ? <Framed siteId={data.site_id}>{children}</Framed> : <Waiting what="Opening the build" />;
}

function OfTrial({ children }: { children: ReactNode }) {
  const { trialId } = useParams();
  const trial = useQuery(trialQuery(Number(trialId)));
  const build = useQuery({ ...buildQuery(trial.data?.build_id ?? 0), enabled: trial.data !== undefined });
  if (trial.error ?? build.error) return <Problem error={trial.error ?? build.error} />;
  return build.data ? <Framed siteId={build.data.site_id}><Fragment key={trialId}>{children}</Fragment></Framed> : <Waiting what="Opening the trial" />;
}
