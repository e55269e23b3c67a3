/** An address that a service gave, if a browser may be sent there; '' for anything else. */
export function webAddress(link: string): string {
  try {
    return /^https?:$/.test(new URL(link).protocol) ? link : '';
  } catch {
    return '';
  }
}
