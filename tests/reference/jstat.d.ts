declare module 'jstat' {
  const jstat: {
    mean(x: number[]): number;
    stdev(x: number[], sample: boolean): number;
    studentt: { inv(p: number, freedom: number): number; cdf(t: number, freedom: number): number };
    corrcoeff(x: number[], y: number[]): number;
    percentile(x: number[], p: number): number;
  };
  export default jstat;
}
