/** One of several, or none of them. */
export function ChoiceField({
  title,
  none,
  value,
  among,
  onChange,
}: {
  title: string
  none: string
  value: string
  among: readonly { id: string; name: string }[]
  onChange: (id: string) => void
}) {
  return (
    <label className="block">
      <span className="block text-sm font-bold">{title}</span>
      <select className="field mt-1 w-full" value={value} onChange={(event) => onChange(event.target.value)}>
        <option value="">{none}</option>
        {among.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  )
}
