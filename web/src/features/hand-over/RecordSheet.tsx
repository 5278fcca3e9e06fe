import { plural, t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { JobRecord } from '../../api/types'
import { written } from '../../app/language'
import { textOf, useSignedIn } from '../../app/signedIn'
import { money } from '../../ui/money'
import { Marked } from '../photos/Marked'
import { ProofLines, ProofTable } from '../prove/ProvePanel'
import { Signature } from '../stock/SignPad'
import { lintInWords } from '../works/lint'

const day = (iso: string) => written(iso, { day: 'numeric', month: 'long', year: 'numeric' })

/** The record as the customer has it: one sheet. */
export function RecordSheet({ record }: { record: JobRecord }) {
  const { vocabulary } = useSignedIn()
  const { snapshot, note, at, by, sha256, model_version, edition } = record
  // the words it was handed over with; a record of an early release kept none
  const words = snapshot.words ?? {}
  const done = new Map(snapshot.marks.map((mark) => [mark.step, mark]))
  // a record of an early release knows steps, not lines
  const lines = snapshot.works ?? []
  const photos = snapshot.photos ?? []
  const dealt = snapshot.dealt
  const told = lines.length > 0
  const mended = told
    ? lines.filter((line) => line.became === 'done').map((line) => ({ id: line.name, does: line.text }))
    : snapshot.mend.filter((step) => done.get(step.id)?.state === 'done')
  const steps = told
    ? [...snapshot.open, ...snapshot.close]
    : [...snapshot.open, ...snapshot.mend, ...snapshot.close]
  const left = [
    ...lines
      .filter((line) => line.became !== 'done')
      .map((line) => ({ id: line.name, text: line.text, why: line.why })),
    ...steps
      .filter((step) => done.get(step.id)?.state !== 'done')
      .map((step) => ({ id: step.id, text: step.does, why: done.get(step.id)?.why ?? '' })),
  ]
  return (
    <article
      className="card-paper p-5 sm:p-8 print:border-0 print:p-0 print:text-[11pt]"
      aria-label={t`Record`}
    >
      <header className="flex flex-wrap justify-between gap-x-6 gap-y-1">
        <div>
          <h1 className="text-2xl font-bold">{snapshot.workshop}</h1>
          <p>
            <Trans>Record of work on a clothes dryer</Trans>
          </p>
        </div>
        <p className="sm:text-right">
          {day(at)}
          {edition > 1 && t`, edition ${edition}`}
          <br />
          {snapshot.technician}
        </p>
      </header>
      <p className="mt-3">
        <b>{snapshot.place.name}</b>
        {snapshot.place.address && `, ${snapshot.place.address}`}
        {snapshot.place.contact && ` · ${snapshot.place.contact}`}
        <br />
        {snapshot.machine.name && `${snapshot.machine.name} · `}
        {snapshot.machine.profile_title}
      </p>
      <Part title={t`What was wrong`}>
        {snapshot.override && (
          <p className="font-bold">
            <Trans>Handed over as it was, with a reason: {snapshot.override}</Trans>
          </p>
        )}
        <p>
          {snapshot.complaints
            .map((code) => words.complaint?.[code] ?? textOf(vocabulary.complaints, code))
            .join(', ')}
          {snapshot.said && `: “${snapshot.said}”`}
        </p>
        <p className="mt-1 text-lg font-bold">
          {snapshot.confirmed_cause ? snapshot.confirmed_cause.text : t`Cause not found.`}
        </p>
        <p>
          <Trans>Before the work the readings said: {snapshot.headline.text}</Trans>
        </p>
      </Part>
      <Part title={t`What was done`}>
        {mended.length > 0 ? (
          <ul className="list-disc pl-5">
            {mended.map((step) => (
              <li key={step.id}>{step.does}</li>
            ))}
          </ul>
        ) : (
          <p>
            <Trans>No repair is recorded.</Trans>
          </p>
        )}
        {dealt && dealt.lint.length > 0 && (
          <p className="mt-1">
            <Trans>Found: {dealt.lint.map(lintInWords).join('; ')}.</Trans>
          </p>
        )}
        {dealt && dealt.fitted.length > 0 && (
          <p className="mt-1">
            <Trans>
              Fitted:{' '}
              {dealt.fitted
                .map(({ text, number, count }) =>
                  [count > 1 && `${count} ×`, text, number].filter(Boolean).join(' '),
                )
                .join('; ')}
              .
            </Trans>
          </p>
        )}
        {left.length > 0 && (
          <p className="mt-1">
            <Trans>
              Not done: {left.map(({ text, why }) => (why ? `${text} (${why})` : text)).join('; ')}.
            </Trans>
          </p>
        )}
      </Part>
      {snapshot.left && (
        <Part title={t`How it was closed`}>
          <p>
            {plural(snapshot.left.came, {
              0: 'Nothing had to be unscrewed.',
              one: '# fastener came out or was loosened.',
              other: '# fasteners came out or were loosened.',
            })}{' '}
            {snapshot.left.accepted.length + snapshot.left.problems.length > 0
              ? t`These are not back:`
              : snapshot.left.came > 0 && t`All are back.`}
          </p>
          <ul className="list-disc pl-5">
            {[...snapshot.left.accepted, ...snapshot.left.problems].map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
          {snapshot.left.orders.length > 0 && (
            <p>
              <Trans>Ordered: {snapshot.left.orders.join('; ')}.</Trans>
            </p>
          )}
        </Part>
      )}
      <Part title={t`Before and after`}>
        {snapshot.proof.rows.length > 0 ? (
          <ProofTable rows={snapshot.proof.rows} kept={words.reading ?? {}} />
        ) : (
          <p>
            <Trans>Nothing was measured.</Trans>
          </p>
        )}
        <ProofLines lines={snapshot.proof.lines} />
        <p className="mt-2 text-lg font-bold">{snapshot.proof.text}</p>
      </Part>
      {dealt?.agreed && (
        <Part title={t`Agreed`}>
          <p>
            {money(dealt.agreed.total, dealt.agreed.currency)}
            {dealt.agreed.name && `, ${dealt.agreed.name}`}
          </p>
          {dealt.agreed.signature && (
            <svg viewBox="0 0 600 200" className="block h-14" role="img" aria-label={t`Signature`}>
              <Signature path={dealt.agreed.signature} />
            </svg>
          )}
        </Part>
      )}
      {photos.length > 0 && (
        <Part title={t`Photos`}>
          <ul className="flex flex-wrap gap-4">
            {photos.map((photo) => (
              <li key={photo.url + photo.of} className="break-inside-avoid">
                <Marked dots={photo.wires.map((wire) => ({ ...wire, key: wire.text }))}>
                  <img
                    src={photo.url}
                    width={photo.width}
                    height={photo.height}
                    alt={photo.of || t`of the machine`}
                    className="max-h-72 w-auto max-w-full rounded-lg"
                  />
                </Marked>
                <p className="text-soft text-sm">
                  {photo.of && `${photo.of} · `}
                  {photo.by}, {day(photo.at)}
                </p>
              </li>
            ))}
          </ul>
        </Part>
      )}
      {note && (
        <Part title={t`Until the next visit`}>
          <p className="whitespace-pre-line">{note}</p>
        </Part>
      )}
      <footer className="text-soft border-base-300 mt-5 border-t pt-2 text-sm">
        <Trans>
          Local codes and the maker's sheet come first. Handed over by {by}. Model {model_version}, record{' '}
          <span className="break-all">{sha256.slice(0, 16)}</span>.
        </Trans>
      </footer>
    </article>
  )
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="mt-4">
      <h2 className="text-soft text-sm font-bold">{title}</h2>
      {children}
    </section>
  )
}
