/** "1 item", "3 items": a number and what is counted. @param many where it is not `one` and s */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
