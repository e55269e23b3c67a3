/** "1 item", "3 items". */
export const plural = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;
