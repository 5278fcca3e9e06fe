/** A wire's colour as a bar; its word stands beside it. */
export const ColourBar = ({ colour, className }: { colour: string | null; className: string }) => (
  <span
    aria-hidden="true"
    className={`border-base-content/40 shrink-0 rounded-full border ${className}`}
    style={{ background: `var(--wire-${colour}, transparent)` }}
  />
)
