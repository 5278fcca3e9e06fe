import { type Wording, worded } from '../app/language'

type ChoiceProps<T extends string> = {
  title: string
  options: readonly (readonly [T, Wording])[]
  value: T
  onChange: (value: T) => void
}

/** One of several, as chips. */
export function Choice<T extends string>({ title, options, value, onChange }: ChoiceProps<T>) {
  return (
    <fieldset>
      <legend className="font-bold">{title}</legend>
      <div className="mt-1.5 flex flex-wrap gap-2">
        {options.map(([code, text]) => (
          <button
            key={code}
            type="button"
            className="chip"
            aria-pressed={value === code}
            onClick={() => onChange(code)}
          >
            {worded(text)}
          </button>
        ))}
      </div>
    </fieldset>
  )
}

type TogglesProps = {
  title: string
  options: readonly { code: string; text: Wording }[]
  values: readonly string[]
  onChange: (values: string[]) => void
}

/** Any of several, as chips. */
export function Toggles({ title, options, values, onChange }: TogglesProps) {
  return (
    <fieldset>
      <legend className="font-bold">{title}</legend>
      <div className="mt-1.5 flex flex-wrap gap-2">
        {options.map(({ code, text }) => {
          const on = values.includes(code)
          return (
            <button
              key={code}
              type="button"
              className="chip"
              aria-pressed={on}
              onClick={() => onChange(on ? values.filter((value) => value !== code) : [...values, code])}
            >
              {worded(text)}
            </button>
          )
        })}
      </div>
    </fieldset>
  )
}
