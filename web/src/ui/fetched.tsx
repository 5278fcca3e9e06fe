import { Component, type ComponentType, lazy, type ReactNode } from 'react'
import { Failed } from './states'

/** A part of the app did not come: the line is cut, or a newer version has taken its place on the server. */
export class NotFetched extends Error {}

/** A part of the app that is fetched when it is wanted. */
export const fetched = <Props,>(load: () => Promise<ComponentType<Props>>) =>
  lazy(() =>
    load().then(
      (part) => ({ default: part }),
      (cause: unknown) => {
        throw new NotFetched('a part of the app did not come', { cause })
      },
    ),
  )

/** Says so where a part did not come. What is wrong with the app itself goes on to whoever listens. */
export class Fetching extends Component<{ children: ReactNode }, { failed: unknown }> {
  override state: { failed: unknown } = { failed: undefined }

  static getDerivedStateFromError(failed: unknown) {
    return { failed }
  }

  override render() {
    const { failed } = this.state
    if (failed === undefined) return this.props.children
    if (!(failed instanceof NotFetched)) throw failed
    // a part that did not come is remembered as such for as long as the page stands: the page is asked for anew
    return <Failed error={failed} again={() => window.location.reload()} />
  }
}
