/** The formatter of numbers as spreadsheets show them; the package brings no types. */
declare module 'ssf' {
  const SSF: { format(format: string | number, value: number, options?: { date1904?: boolean }): string };
  export default SSF;
}
