/** The numbers of a picture as a table, for who cannot see it: read out, and in nobody's way. */
export function TableBehind({
  caption,
  head,
  rows,
}: {
  caption: string
  head: readonly string[]
  rows: readonly (readonly string[])[]
}) {
  // a table is as wide as its words whatever it is told: the box round it is not
  return (
    <div className="sr-only">
      <table>
        <caption>{caption}</caption>
        <thead>
          <tr>
            {head.map((name) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.join(' ')}>
              {row.map((cell, i) =>
                i === 0 ? (
                  <th key={head[i]} scope="row">
                    {cell}
                  </th>
                ) : (
                  <td key={head[i]}>{cell}</td>
                ),
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
