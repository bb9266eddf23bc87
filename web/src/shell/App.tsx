import { Navigate, Route, Routes } from "react-router";

import { FoldersPage } from "../folders";
import { HouseRulesPage } from "../house";
import { JobPage, JobsPage } from "../jobs";
import { PoliciesPage } from "../policies";
import { PrintersPage } from "../printers";
import { QueuePage } from "../queue";
import { AccountPage, SignIn, useSession } from "../session";
import { Notice } from "./Notice";

/** Routes; nothing but the sign-in page without a session. */
export function App() {
  const session = useSession();
  if (session.isPending) return null;
  if (session.isError) return <Notice problem={session.error} onRetry={() => void session.refetch()} />;
  if (!session.data.username) return <SignIn session={session.data} />;
  return (
    <Routes>
      <Route path="/" element={<JobsPage />} />
      <Route path="/policies" element={<PoliciesPage />} />
      <Route path="/printers" element={<PrintersPage />} />
      <Route path="/queue" element={<QueuePage />} />
      <Route path="/folders" element={<FoldersPage />} />
      <Route path="/account" element={<AccountPage />} />
      <Route path="/house-rules" element={<HouseRulesPage />} />
      <Route path="/jobs/:jobId" element={<JobPage />} />
      <Route path="/jobs/:jobId/:destinationId/:stage" element={<JobPage />} />
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}
