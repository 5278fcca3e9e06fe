import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useRecognised } from '../../api/queries'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { Failed, Waiting } from '../../ui/states'

const percent = (share: number) => `${Math.round(share * 100)} %`

/** Which layout is this? One look after another, each the one that tells most; ends as soon as one is sure enough. */
export function Recognise({
  answers,
  onAnswer: setAnswers,
  onChoose,
  onClose,
}: {
  answers: Readonly<Record<string, string>>
  onAnswer: (answers: Record<string, string>) => void
  onChoose: (layout: string, variant: Record<string, string>) => void
  onClose: () => void
}) {
  const found = useRecognised(answers)
  const asked = Object.keys(answers)
  if (found.isError && !found.data)
    return (
      <Dialog title={t`Which layout is it?`} onClose={onClose}>
        <Failed error={found.error} again={() => void found.refetch()} />
      </Dialog>
    )
  if (!found.data)
    return (
      <Dialog title={t`Which layout is it?`} onClose={onClose}>
        <Waiting what={t`the first look`} />
      </Dialog>
    )
  const { layouts, next, known, none_of_them } = found.data
  return (
    <Dialog title={t`Which layout is it?`} onClose={onClose}>
      {next ? (
        <fieldset>
          <legend className="text-lg font-bold">{next.ask}</legend>
          <div className="mt-2 grid gap-2">
            {next.answers.map((answer) => (
              <Button
                key={answer.code}
                kind="outline"
                className="h-auto min-h-[54px] justify-start py-2 text-left text-base font-normal"
                onClick={() => setAnswers({ ...answers, [next.name]: answer.code })}
              >
                {answer.text}
              </Button>
            ))}
          </div>
        </fieldset>
      ) : (
        <p className="text-lg">
          {known ? t`It is most likely this one:` : t`Looking on would tell no more. The nearest:`}
        </p>
      )}
      {none_of_them && (
        <p role="status" className="text-primary mt-2 font-bold">
          <Trans>Not quite like any of these: start from the nearest, and mend it under Layouts.</Trans>
        </p>
      )}
      <h3 className="mt-4 font-bold">{asked.length === 0 ? t`The layouts there are` : t`As it looks now`}</h3>
      <ul className="mt-1 grid gap-1">
        {layouts
          .filter((row) => row.in_question)
          .slice(0, asked.length === 0 ? 8 : 3)
          .map((row, i) => (
            <li key={row.name}>
              <button
                type="button"
                className={`touch flex w-full items-center justify-between gap-3 rounded-xl border px-3 py-1.5 text-left ${i === 0 && !next ? 'border-primary border-2 font-bold' : 'border-base-300'}`}
                onClick={() => onChoose(row.name, row.variant)}
              >
                <span>
                  {row.title}{' '}
                  <span className="text-soft block text-sm">
                    <Trans>such as {row.maker}</Trans>
                  </span>
                </span>
                {asked.length > 0 && <span>{percent(row.probability)}</span>}
              </button>
            </li>
          ))}
      </ul>
      {asked.length > 0 && (
        <Button
          kind="ghost"
          className="mt-3"
          onClick={() => {
            const last = asked.at(-1)
            setAnswers(Object.fromEntries(Object.entries(answers).filter(([name]) => name !== last)))
          }}
        >
          <Trans>Undo the last answer</Trans>
        </Button>
      )}
    </Dialog>
  )
}
