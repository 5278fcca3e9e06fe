/** Why something was refused, where it was done; nothing where nothing is wrong. */
export function Trouble({ says, loud = false }: { says: string | null | undefined; loud?: boolean }) {
  if (!says) return null
  return (
    <p role="alert" className={`text-error mt-2 ${loud ? 'font-bold' : ''}`.trim()}>
      {says}
    </p>
  )
}
