/** It brings no types; of it only this is used. */
declare module 'jstat' {
  export const jStat: {
    normal: {
      inv(share: number, mean: number, deviation: number): number
      pdf(x: number, mean: number, deviation: number): number
    }
    poisson: { cdf(k: number, mean: number): number }
    binomial: { cdf(k: number, of: number, share: number): number }
    chisquare: { cdf(x: number, degrees: number): number }
  }
}
