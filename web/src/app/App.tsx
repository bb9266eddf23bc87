import { Navigate, Route, Routes, useLocation } from "react-router";

import { ConditionsPage } from "../conditions";
import { FoldersPage } from "../folders";
import { GamutsPage } from "../gamuts";
import { HouseRulesPage } from "../house";
import { JobPage, JobsPage } from "../jobs";
import { PathsPage } from "../paths";
import { PoliciesPage } from "../policies";
import { PrintersPage } from "../printers";
import { ProfilePage, ProfilesPage } from "../profiles";
import { ProofsPage } from "../proofs";
import { useSession } from "../queries/useSession";
import { QuestionsPage } from "../questions";
import { QueuePage } from "../queue";
import { MethodsPage, WordsPage } from "../reference";
import { AccountPage, FirstRun, SignIn, SignInOver } from "../session";
import { SpotsPage } from "../spots";
import { Boundary, Notice } from "../ui";

/** Routes; nothing but the sign-in page without a session. Pages are fetched when they are opened. */
export function App() {
  const session = useSession();
  const { pathname } = useLocation();
  if (session.isPending) return null;
  if (session.isError)
    return <Notice problem={session.error} onRetry={() => void session.refetch()} />;
  if (session.data.first_run) return <FirstRun />;
  if (!session.data.username) return <SignIn session={session.data} />;
  return (
    <>
      <SignInOver />
      <Boundary part="page" at={pathname}>
        <Routes>
          <Route path="/" element={<JobsPage />} />
          <Route path="/policies" element={<PoliciesPage />} />
          <Route path="/printers" element={<PrintersPage />} />
          <Route path="/proofs/:proofId?" element={<ProofsPage />} />
          <Route path="/queue" element={<QueuePage />} />
          <Route path="/folders" element={<FoldersPage />} />
          <Route path="/conditions/:conditionId?" element={<ConditionsPage />} />
          <Route path="/profiles" element={<ProfilesPage />} />
          <Route path="/profiles/:profileId/:part?" element={<ProfilePage />} />
          <Route path="/gamuts" element={<GamutsPage />} />
          <Route path="/paths" element={<PathsPage />} />
          <Route path="/questions" element={<QuestionsPage />} />
          <Route path="/spots" element={<SpotsPage />} />
          <Route path="/account" element={<AccountPage />} />
          <Route path="/words" element={<WordsPage />} />
          <Route path="/methods/:name?" element={<MethodsPage />} />
          <Route path="/house-rules" element={<HouseRulesPage />} />
          <Route path="/jobs/:jobId" element={<JobPage />} />
          <Route path="/jobs/:jobId/:destinationId/:stage" element={<JobPage />} />
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
      </Boundary>
    </>
  );
}
