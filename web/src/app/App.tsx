import { t } from '@lingui/core/macro'
import { Suspense, useEffect } from 'react'
import { Navigate, Route, Routes, useLocation } from 'react-router'
import { callThemBy } from '../api/called'
import { outbox, useMe, useSession, useVocabulary } from '../api/queries'
import { JobsPage } from '../features/jobs/JobsPage'
import { SignInPage } from '../features/sign-in/SignInPage'
import { Fetching, fetched } from '../ui/fetched'
import { Failed, Waiting } from '../ui/states'
import { useSpeaking } from './language'
import { SignedInContext } from './signedIn'
import { usePlace } from './usePlace'

// the list is there first; a job's page comes while the first answers are on their way
const job = () => import('../features/jobs/JobPage')
const JobPage = fetched(() => job().then((m) => m.JobPage))
job().catch(() => undefined) // whoever opens one asks again, and hears of it
// seldom opened, and never with hands in a machine
const links = () => import('../features/sign-in/LinkPages')
const LostPasswordPage = fetched(() => links().then((m) => m.LostPasswordPage))
const NewPasswordPage = fetched(() => links().then((m) => m.NewPasswordPage))
const JoinPage = fetched(() => links().then((m) => m.JoinPage))
const PeoplePage = fetched(() => import('../features/people/PeoplePage').then((m) => m.PeoplePage))
const LayoutsPage = fetched(() => import('../features/layouts/LayoutsPage').then((m) => m.LayoutsPage))
const PartsPage = fetched(() => import('../features/stock/PartsPage').then((m) => m.PartsPage))
const RecordPage = fetched(() => import('../features/hand-over/RecordPage').then((m) => m.RecordPage))
const VentPage = fetched(() => import('../features/vent/VentPage').then((m) => m.VentPage))
const PaperPage = fetched(() => import('../features/vent/PaperPage').then((m) => m.PaperPage))
const NewJobPage = fetched(() => import('../features/jobs/NewJobPage').then((m) => m.NewJobPage))
const MachinePage = fetched(() => import('../features/machines/MachinePage').then((m) => m.MachinePage))
const LabelPage = fetched(() => import('../features/machines/LabelPage').then((m) => m.LabelPage))
const WallPage = fetched(() => import('../features/machines/WallPage').then((m) => m.WallPage))
const DeskPage = fetched(() => import('../features/desk/DeskPage').then((m) => m.DeskPage))
const LearnedPage = fetched(() => import('../features/desk/LearnedPage').then((m) => m.LearnedPage))
const DayPage = fetched(() => import('../features/day/DayPage').then((m) => m.DayPage))
const DrillsPage = fetched(() => import('../features/drills/DrillsPage').then((m) => m.DrillsPage))
const DrillPage = fetched(() => import('../features/drills/DrillPage').then((m) => m.DrillPage))
const HistoryPage = fetched(() => import('../features/hand-over/HistoryPage').then((m) => m.HistoryPage))

export function App() {
  const session = useSession()
  usePlace()
  if (session.isPending) return <Waiting what="Warm Draft" />
  if (session.isError && !session.data)
    return <Failed error={session.error} again={() => void session.refetch()} />
  return (
    <Fetching>
      <Suspense fallback={<Waiting what={t`this part`} />}>
        {session.data.signed_in ? <SignedIn /> : <SignedOut />}
      </Suspense>
    </Fetching>
  )
}

function SignedOut() {
  const { pathname } = useLocation()
  return (
    <Routes>
      <Route path="/sign-in" element={<SignInPage />} />
      <Route path="/lost-password" element={<LostPasswordPage />} />
      <Route path="/new-password/:key/:token" element={<NewPasswordPage />} />
      <Route path="/join/:token" element={<JoinPage />} />
      <Route path="*" element={<Navigate to="/sign-in" replace state={{ from: pathname }} />} />
    </Routes>
  )
}

function SignedIn() {
  const me = useMe()
  const vocabulary = useVocabulary()
  const person = me.data?.id
  const workshop = me.data?.workshop_id
  const theme = me.data?.habits.theme
  const from: unknown = useLocation().state
  const language = me.data?.language
  const spoken = useSpeaking(language)
  useEffect(() => {
    if (person) void outbox.serve(person, workshop)
  }, [person, workshop])
  useEffect(() => {
    if (vocabulary.data) callThemBy(vocabulary.data)
  }, [vocabulary.data])
  useEffect(() => {
    if (theme === 'linen' || theme === 'cellar') document.documentElement.dataset.theme = theme
    else delete document.documentElement.dataset.theme
  }, [theme])
  if (me.isError && !me.data) return <Failed error={me.error} again={() => void me.refetch()} />
  if (vocabulary.isError && !vocabulary.data)
    return <Failed error={vocabulary.error} again={() => void vocabulary.refetch()} />
  if (!me.data || !vocabulary.data || !spoken) return <Waiting what={t`your workshop`} />
  const back = from && typeof from === 'object' && 'from' in from ? String(from.from) : '/jobs'
  return (
    <SignedInContext key={language} value={{ me: me.data, vocabulary: vocabulary.data }}>
      <Routes>
        <Route path="/jobs" element={<JobsPage />} />
        <Route path="/jobs/new" element={<NewJobPage />} />
        <Route path="/people" element={<PeoplePage />} />
        <Route path="/layouts" element={<LayoutsPage />} />
        <Route path="/parts" element={<PartsPage />} />
        <Route path="/desk" element={<DeskPage />} />
        <Route path="/desk/learned" element={<LearnedPage />} />
        <Route path="/day" element={<DayPage />} />
        <Route path="/drills" element={<DrillsPage />} />
        <Route path="/drills/:jobId" element={<DrillPage />} />
        <Route path="/new-password/:key/:token" element={<NewPasswordPage />} />
        <Route path="/join/:token" element={<JoinPage />} />
        <Route path="/machines/:machineId" element={<MachinePage />} />
        <Route path="/machines/:machineId/label" element={<LabelPage />} />
        <Route path="/places/:placeId" element={<WallPage />} />
        <Route path="/jobs/:jobId/history" element={<HistoryPage />} />
        <Route path="/jobs/:jobId/record" element={<RecordPage />} />
        <Route path="/jobs/:jobId/vent" element={<VentPage />} />
        <Route path="/jobs/:jobId/vent/paper" element={<PaperPage />} />
        <Route path="/jobs/:jobId/:stage?" element={<JobPage />} />
        <Route path="/sign-in" element={<Navigate to={back} replace />} />
        <Route path="*" element={<Navigate to="/jobs" replace />} />
      </Routes>
    </SignedInContext>
  )
}
