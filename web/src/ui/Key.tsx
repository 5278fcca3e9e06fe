/** A key's name, beside the button it presses. Hidden where there is no keyboard. */
export function Key({ children }: { children: string }) {
  return (
    <span
      aria-hidden="true"
      className="hidden rounded-md border border-current px-1.5 text-sm font-normal lg:inline"
    >
      {children}
    </span>
  )
}
