import { Trans } from '@lingui/react/macro'
import { setFeed, useFeed } from '../../api/upkeep'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Told, useAct } from '../../ui/useAct'

/** The address that the workshop's calendars read the next visits from. */
export function CalendarFeed() {
  const { me } = useSignedIn()
  const feed = useFeed()
  const { trouble, run } = useAct()
  if (!feed.data || !me.may.includes('keep_the_workshop')) return null
  const { address } = feed.data
  return (
    <section className="card-paper mt-4 p-4">
      <h2 className="text-xl font-bold">
        <Trans>Calendar of next visits</Trans>
      </h2>
      {address ? (
        <>
          <p className="mt-1">
            <Trans>
              Give this address to a calendar program: it reads every machine's next visit from it.
            </Trans>
          </p>
          <p className="mt-1 font-bold break-all">{address}</p>
          <Button kind="outline" className="mt-2" onClick={() => run(setFeed(false))}>
            <Trans>Withdraw the address</Trans>
          </Button>
        </>
      ) : (
        <Button kind="outline" className="mt-2" onClick={() => run(setFeed(true))}>
          <Trans>Make an address for it</Trans>
        </Button>
      )}
      <Told trouble={trouble} />
    </section>
  )
}
