import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { useStory } from '../../api/upkeep'
import { useSignedIn } from '../../app/signedIn'
import { TopBar } from '../../app/TopBar'
import { Button } from '../../ui/Button'
import { Failed, Waiting } from '../../ui/states'
import { Drawn } from '../hand-over/Drawn'

/** A label for the machine: who signs in and scans it sees its history. */
export function LabelPage() {
  const { machineId = '' } = useParams()
  const { me } = useSignedIn()
  const story = useStory(machineId)
  useEffect(() => {
    document.title = t`Label · Warm Draft`
  }, [])
  if (story.isError && !story.data) return <Failed error={story.error} again={() => void story.refetch()} />
  if (!story.data) return <Waiting what={t`the machine`} />
  const { machine, place, qr } = story.data
  return (
    <>
      <TopBar>
        <Link to={`/machines/${machine.id}`} className="touch inline-flex items-center underline">
          <Trans>Back to the machine</Trans>
        </Link>
      </TopBar>
      <main className="mx-auto max-w-xl px-3 py-6 print:p-0">
        <article className="flex items-center gap-4 rounded-xl border-2 border-black bg-white p-4 text-black print:w-[90mm]">
          <Drawn svg={qr} title={t`QR code of this machine`} className="size-36 shrink-0" />
          <div className="min-w-0">
            <h1 className="text-xl leading-tight font-bold">{me.workshop}</h1>
            <p className="mt-1">{place.name}</p>
            <p className="font-bold">{machine.name || machine.profile_title}</p>
          </div>
        </article>
        <p className="text-soft no-print mt-3">
          <Trans>Only people of the workshop see anything when they scan it.</Trans>
        </p>
        <Button kind="primary" className="no-print mt-3 h-[54px] text-lg" onClick={() => window.print()}>
          <Trans>Print</Trans>
        </Button>
      </main>
    </>
  )
}
