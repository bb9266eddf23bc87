import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";

import { JobPage, JobsPage } from "../jobs";
import { useSession } from "../queries/useSession";
import { AccountPage, FirstRun, SignIn, SignInOver } from "../session";
import { Notice } from "../ui/Notice";

// What the jobs do not need is fetched when it is opened.
const ConditionsPage = lazy(() =>
  import("../conditions").then((m) => ({ default: m.ConditionsPage })),
);
const FoldersPage = lazy(() => import("../folders").then((m) => ({ default: m.FoldersPage })));
const HouseRulesPage = lazy(() => import("../house").then((m) => ({ default: m.HouseRulesPage })));
const MethodsPage = lazy(() => import("../reference").then((m) => ({ default: m.MethodsPage })));
const PoliciesPage = lazy(() => import("../policies").then((m) => ({ default: m.PoliciesPage })));
const PrintersPage = lazy(() => import("../printers").then((m) => ({ default: m.PrintersPage })));
const ProfilePage = lazy(() => import("../profiles").then((m) => ({ default: m.ProfilePage })));
const ProfilesPage = lazy(() => import("../profiles").then((m) => ({ default: m.ProfilesPage })));
const QueuePage = lazy(() => import("../queue").then((m) => ({ default: m.QueuePage })));
const WordsPage = lazy(() => import("../reference").then((m) => ({ default: m.WordsPage })));

/** Routes; nothing but the sign-in page without a session. */
export function App() {
  const session = useSession();
  if (session.isPending) return null;
  if (session.isError)
    return <Notice problem={session.error} onRetry={() => void session.refetch()} />;
  if (session.data.first_run) return <FirstRun />;
  if (!session.data.username) return <SignIn session={session.data} />;
  return (
    <>
      <SignInOver />
      <Suspense fallback={null}>
        <Routes>
          <Route path="/" element={<JobsPage />} />
          <Route path="/policies" element={<PoliciesPage />} />
          <Route path="/printers" element={<PrintersPage />} />
          <Route path="/queue" element={<QueuePage />} />
          <Route path="/folders" element={<FoldersPage />} />
          <Route path="/conditions/:conditionId?" element={<ConditionsPage />} />
          <Route path="/profiles" element={<ProfilesPage />} />
          <Route path="/profiles/:profileId/:part?" element={<ProfilePage />} />
          <Route path="/account" element={<AccountPage />} />
          <Route path="/words" element={<WordsPage />} />
          <Route path="/methods/:name?" element={<MethodsPage />} />
          <Route path="/house-rules" element={<HouseRulesPage />} />
          <Route path="/jobs/:jobId" element={<JobPage />} />
          <Route path="/jobs/:jobId/:destinationId/:stage" element={<JobPage />} />
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
      </Suspense>
    </>
  );
}
