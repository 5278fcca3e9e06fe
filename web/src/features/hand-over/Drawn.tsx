/** A picture the server drew, as it came: shown as an image, so that nothing in it can act. */
export const Drawn = ({ svg, title, className }: { svg: string; title: string; className?: string }) => (
  <img
    src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`}
    alt={title}
    className={`rounded bg-white ${className ?? ''}`}
  />
)
