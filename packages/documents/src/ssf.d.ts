/** The formatter of numbers as spreadsheets show them; the package brings no types. */
declare module 'ssf' {
  const SSF: { format(format: string, value: number): string };
  export default SSF;
}
