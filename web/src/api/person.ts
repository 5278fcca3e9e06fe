/** What the app remembers of one person beyond its answers, and forgets before the next one comes. */
const forgetting: (() => void)[] = []

/** Say how something of a person is forgotten; asked for at sign-out, and where another person takes this device. */
export function ofThePerson(forget: () => void): void {
  forgetting.push(forget)
}

export function forgetThePerson(): void {
  for (const forget of forgetting) forget()
}
