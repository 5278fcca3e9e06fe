import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { PaperSize } from '../../api/upkeep'
import { useSignedIn } from '../../app/signedIn'
import { Choice } from '../../ui/Choice'
import { Field } from '../../ui/Field'
import { SignPad } from '../stock/SignPad'

export type PaperWanted = {
  language: string
  size: PaperSize
  link: boolean
  name: string
  signature: string
}

const SIZES = [
  ['A4', 'A4'],
  ['Letter', 'Letter'],
] as const

/** What the customer takes along: its language, its sheet, a link, a signature. */
export function PaperChoice({
  job,
  wanted,
  onChange,
}: {
  job: string
  wanted: PaperWanted
  onChange: (wanted: PaperWanted) => void
}) {
  const { vocabulary } = useSignedIn()
  const set = (change: Partial<PaperWanted>) => onChange({ ...wanted, ...change })
  return (
    <section className="mt-4 grid gap-3">
      <h3 className="text-lg font-bold">
        <Trans>The customer's paper</Trans>
      </h3>
      <Choice
        title={t`In the language of`}
        options={vocabulary.customer_languages.map(({ code, text }) => [code, text] as const)}
        value={wanted.language}
        onChange={(language) => set({ language })}
      />
      <Choice title={t`Printed on`} options={SIZES} value={wanted.size} onChange={(size) => set({ size })} />
      <label className="touch flex items-center gap-3">
        <input
          type="checkbox"
          className="checkbox"
          checked={wanted.link}
          onChange={(event) => set({ link: event.target.checked })}
        />
        <span>
          <Trans>With a private link and its QR code. It can be withdrawn at any time.</Trans>
        </span>
      </label>
      <details>
        <summary className="touch flex cursor-pointer items-center font-bold">
          {wanted.signature ? <Trans>Signed</Trans> : <Trans>Let the customer sign</Trans>}
        </summary>
        <Field title={t`Who signs`} value={wanted.name} maxLength={120} onChange={(name) => set({ name })} />
        <div className="mt-2 max-w-xl">
          <SignPad value={wanted.signature} onChange={(signature) => set({ signature })} />
        </div>
        {wanted.signature && (
          <button type="button" className="btn btn-ghost touch" onClick={() => set({ signature: '' })}>
            <Trans>Sign again</Trans>
          </button>
        )}
      </details>
      <a
        href={`/api/v1/jobs/${job}/record/preview/page?language=${wanted.language}`}
        target="_blank"
        rel="noreferrer"
        className="touch inline-flex items-center underline"
      >
        <Trans>See the paper as it stands now</Trans>
      </a>
    </section>
  )
}
