/** The part of jstat that the tests use; it ships no types. */
declare module 'jstat' {
  const jstat: {
    chisquare: { cdf(x: number, degrees: number): number };
    binomial: { pdf(k: number, n: number, p: number): number };
  };
  export default jstat;
}
