declare module "jstat" {
  export const jStat: {
    chisquare: { cdf(x: number, dof: number): number };
    studentt: {
      inv(p: number, dof: number): number;
      cdf(t: number, dof: number): number;
    };
    normal: {
      pdf(x: number, mean: number, std: number): number;
      cdf(x: number, mean: number, std: number): number;
      inv(p: number, mean: number, std: number): number;
    };
  };
}
