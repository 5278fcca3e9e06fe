import { t } from '@lingui/core/macro'
import { Plural, Trans } from '@lingui/react/macro'
import { useState } from 'react'
import type { Job, WorkLine } from '../../api/types'
import { markStep, withdraw } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { AskWhy } from '../../ui/AskWhy'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Trouble'
import { minutes } from '../bench/bench'
import { AddWork } from './AddWork'

const OFFERS_SHOWN = 6

/** Everything there is to do on this machine: found, ordered or due; then what is worth doing while it is open. */
export function WorksPanel({ job, title = t`List of works` }: { job: Job; title?: string }) {
  const [all, setAll] = useState(false)
  const { works } = job
  const wanted = works.lines.filter((line) => line.wanted)
  const offers = works.lines.filter((line) => line.became === 'open' && line.stands === 'offer')
  const settled = works.lines.filter((line) => !line.wanted && line.became !== 'open')
  const shownOffers = all ? offers : offers.slice(0, OFFERS_SHOWN)
  return (
    <section aria-label={title}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-xl font-bold">{title}</h2>
        {works.minutes > 0 && (
          <p className="text-soft text-sm">
            <Trans>{minutes(works.minutes)} hands on, beside the way in (our estimate)</Trans>
          </p>
        )}
      </div>
      {wanted.length + works.waiting.length === 0 && (
        <p className="text-soft mt-1">
          <Trans>Nothing yet: it follows from what is found, or is ordered here.</Trans>
        </p>
      )}
      <ul>
        {wanted.map((line) => (
          <WantedLine key={line.name} job={job} line={line} />
        ))}
        {works.waiting.map((line) => (
          <li key={line.name} className="border-base-300 border-b py-2">
            <p className="flex gap-2">
              <span aria-hidden="true" className="text-soft w-5 text-center">
                …
              </span>
              <span>
                {line.text}
                <span className="text-soft block text-sm">
                  <Trans>Opened by heat: done with its cause as soon as that is known, never alone.</Trans>
                </span>
              </span>
            </p>
          </li>
        ))}
      </ul>
      {!job.handed_over && <AddWork job={job} />}
      {offers.length > 0 && (
        <>
          <h3 className="mt-4 font-bold">
            <Trans>Worth doing while it is open</Trans>
          </h3>
          <ul>
            {shownOffers.map((line) => (
              <OfferedLine key={line.name} job={job} line={line} />
            ))}
          </ul>
          {offers.length > OFFERS_SHOWN && !all && (
            <Button kind="ghost" className="-ml-3" onClick={() => setAll(true)}>
              <Plural value={offers.length - OFFERS_SHOWN} one="# more" other="# more" />
            </Button>
          )}
        </>
      )}
      {settled.length > 0 && (
        <>
          <h3 className="mt-4 font-bold">
            <Trans>Not done, and why</Trans>
          </h3>
          <ul>
            {settled.map((line) => (
              <SettledLine key={line.name} job={job} line={line} />
            ))}
          </ul>
        </>
      )}
    </section>
  )
}

/** What became of a line, with what takes it back. */
async function decide(
  job: Job,
  line: WorkLine,
  state: 'taken' | 'declined' | 'not_needed' | 'undone',
  why = '',
): Promise<string | null> {
  const { became } = line
  const said = became === 'taken' || became === 'declined' || became === 'not_needed' ? became : null
  const outcome = await markStep(job.id, { step: line.name, state, why })
  if (outcome.state === 'refused') return outcome.problem.message
  canUndo(job.id, {
    says: line.text,
    run: () =>
      void markStep(
        job.id,
        state === 'undone' && said
          ? { step: line.name, state: said, why: line.why }
          : { step: line.name, state: 'undone', why: '' },
      ),
  })
  return null
}

function Reasons({ line }: { line: WorkLine }) {
  return (
    <span className="text-soft block text-sm">
      {[line.because, ...line.also].map((because) => because.text).join('; ')}
      {line.uses_up.length > 0 && (
        <>
          {' · '}
          <Trans>new: {line.uses_up.join(', ')}</Trans>
        </>
      )}
    </span>
  )
}

function WantedLine({ job, line }: { job: Job; line: WorkLine }) {
  const [asking, setAsking] = useState(false)
  const [trouble, setTrouble] = useState<string | null>(null)
  const done = line.became === 'done'
  const steps = line.steps.filter((step) => job.settled.includes(step)).length
  const order = [line.because, ...line.also].find((because) => because.order)?.order
  const ordered = line.because.kind === 'order' && line.also.length === 0
  return (
    <li className="border-base-300 border-b py-1">
      <div className="flex min-h-11 items-center gap-2">
        <span
          aria-hidden="true"
          className={`w-5 text-center font-bold ${done ? 'text-success' : 'text-soft'}`}
        >
          {done ? '✓' : '·'}
        </span>
        <span className="min-w-0 flex-1">
          <b className={done ? 'font-normal' : ''}>{line.text}</b>
          <span className="sr-only">{done ? t`, done` : ''}</span>
          <Reasons line={line} />
          {line.unreached.length > 0 && (
            <span className="text-primary block text-sm font-bold">
              {job.known_layout && !job.by_hand ? (
                <Trans>
                  This layout has no way to: {line.unreached.join(', ')}. Go by the maker’s sheet, or change
                  the layout.
                </Trans>
              ) : (
                <Trans>not within reach yet: {line.unreached.join(', ')}</Trans>
              )}
            </span>
          )}
        </span>
        <span className="text-soft text-sm whitespace-nowrap">
          {line.steps.length > 1 && !done && `${steps}/${line.steps.length} · `}
          {minutes(line.minutes)}
        </span>
        {!done && !job.handed_over && (
          <Button
            kind="ghost"
            className="px-2"
            aria-expanded={asking}
            aria-label={t`Not: ${line.text}`}
            onClick={() => setAsking(!asking)}
          >
            <Trans>Not</Trans>
          </Button>
        )}
      </div>
      {asking && (
        <div className="pb-2 pl-7">
          <AskWhy
            ask={t`Declined: why?`}
            says={t`Declined`}
            focus
            onSay={(why) => void decide(job, line, 'declined', why).then(setTrouble)}
          />
          <div className="flex flex-wrap gap-2">
            <Button kind="ghost" onClick={() => void decide(job, line, 'not_needed').then(setTrouble)}>
              <Trans>Found not needed</Trans>
            </Button>
            {line.became === 'taken' && (
              <Button kind="ghost" onClick={() => void decide(job, line, 'undone').then(setTrouble)}>
                <Trans>Not taken on after all</Trans>
              </Button>
            )}
            {ordered && order && (
              <Button
                kind="ghost"
                onClick={() => {
                  void withdraw(job.id, order, true)
                  canUndo(job.id, { says: line.text, run: () => void withdraw(job.id, order, false) })
                }}
              >
                <Trans>Take the order back</Trans>
              </Button>
            )}
          </div>
        </div>
      )}
      <Trouble says={trouble} />
    </li>
  )
}

function OfferedLine({ job, line }: { job: Job; line: WorkLine }) {
  const [asking, setAsking] = useState(false)
  const [trouble, setTrouble] = useState<string | null>(null)
  return (
    <li className="border-base-300 border-b py-1">
      <div className="flex min-h-11 flex-wrap items-center gap-x-2">
        <span className="min-w-40 flex-1">
          {line.text}
          <Reasons line={line} />
        </span>
        {!job.handed_over && (
          <>
            <Button
              kind="outline"
              className="px-3"
              aria-label={t`Take on: ${line.text}`}
              onClick={() => void decide(job, line, 'taken').then(setTrouble)}
            >
              <Trans>Take on</Trans>
            </Button>
            <Button
              kind="ghost"
              className="px-2"
              aria-expanded={asking}
              aria-label={t`No: ${line.text}`}
              onClick={() => setAsking(!asking)}
            >
              <Trans>No</Trans>
            </Button>
          </>
        )}
      </div>
      {asking && (
        <AskWhy
          ask={t`Declined: why?`}
          says={t`Declined`}
          focus
          onSay={(why) => void decide(job, line, 'declined', why).then(setTrouble)}
        />
      )}
      <Trouble says={trouble} />
    </li>
  )
}

function SettledLine({ job, line }: { job: Job; line: WorkLine }) {
  const said: Record<string, string> = {
    declined: t`declined`,
    not_needed: t`not needed`,
    not_possible: t`not possible here`,
  }
  return (
    <li className="border-base-300 flex min-h-11 items-center gap-2 border-b py-1">
      <span className="text-soft min-w-0 flex-1">
        {line.text}
        <span className="block text-sm">
          {said[line.became]}
          {line.why && `: ${line.why}`}
          {line.by && ` (${line.by})`}
        </span>
      </span>
      {!job.handed_over && (
        <Button
          kind="ghost"
          className="px-2"
          aria-label={t`Undo: ${line.text}`}
          onClick={() => void decide(job, line, 'undone')}
        >
          <Trans>Undo</Trans>
        </Button>
      )}
    </li>
  )
}
