import type { ComponentProps } from 'react'

/** How loud a button is: what comes next, what is meant, what may be, what is beside. */
export type ButtonKind = 'primary' | 'neutral' | 'outline' | 'ghost'

const LOOKS: Record<ButtonKind, string> = {
  primary: 'btn btn-primary touch',
  neutral: 'btn btn-neutral touch',
  outline: 'btn btn-outline touch',
  ghost: 'btn btn-ghost touch',
}

type Props = ComponentProps<'button'> & { kind: ButtonKind }

/** A button for dusty fingers. */
export function Button({ kind, type = 'button', className = '', ...rest }: Props) {
  return <button type={type} className={`${LOOKS[kind]} ${className}`.trim()} {...rest} />
}
