import { t } from '@lingui/core/macro'
import type { InputHTMLAttributes } from 'react'

type Props = Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange' | 'className'> & {
  title: string
  value: string
  onChange: (value: string) => void
}

/** A line to type in, with what it is called above it. */
export function Field({ title, value, onChange, ...input }: Props) {
  return (
    <label className="block">
      <span className="block text-sm font-bold">{title}</span>
      <input
        className="field mt-1"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        {...input}
      />
    </label>
  )
}

type Plain = Pick<Props, 'value' | 'onChange'>

export const EmailField = (props: Plain & Pick<Props, 'autoComplete' | 'autoFocus'>) => (
  <Field title={t`E-mail`} type="email" required {...props} />
)

export const PasswordField = ({ fresh = true, ...props }: Plain & { title: string; fresh?: boolean }) => (
  <Field
    type="password"
    autoComplete={fresh ? 'new-password' : 'current-password'}
    required
    maxLength={200}
    {...props}
  />
)
