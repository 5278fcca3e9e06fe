import { useSignedIn } from '../app/signedIn'

/** Asked for what is never done, it says why not, and what to do instead. */
export function Never({ typed }: { typed: string }) {
  const { never } = useSignedIn().vocabulary
  const words = typed.toLowerCase().split(/\s+/)
  if (!never.asked.some((asked) => words.some((word) => word.startsWith(asked)))) return null
  return (
    <p role="alert" className="border-error mt-2 rounded-xl border-2 p-3 font-bold">
      {never.says}
    </p>
  )
}
