/** The package ships no types. */
declare module 'ml-regression-theil-sen' {
  export class TheilSenRegression {
    constructor(x: readonly number[], y: readonly number[]);
    /** The median of all slopes between two samples of different x; of an even number the lower of the two middle ones. */
    readonly slope: number;
  }
}
