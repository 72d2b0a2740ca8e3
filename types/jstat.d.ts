declare module "jstat" {
  export const jStat: {
    studentt: { inv(p: number, dof: number): number };
    normal: { inv(p: number, mean: number, std: number): number };
  };
}
