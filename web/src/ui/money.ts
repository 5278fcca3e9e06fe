/** A sum as it is written where this device is; the server's texts are exact, and are not reckoned with here. */
export const money = (sum: string, currency: string): string =>
  new Intl.NumberFormat(undefined, { style: 'currency', currency }).format(sum as Intl.StringNumericLiteral)
