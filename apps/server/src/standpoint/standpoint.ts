/** From where the record is looked at, as the address says: at another time, or with a plan drawn in. */
import type { Request } from 'express';

export interface Standpoint {
  /** A revision or a time. */
  asOf: string | undefined;
  /** Id of a plan. A change is drawn in it instead of being made. */
  plan: string | undefined;
}

export const standpointIn = ({ query: { asOf, plan } }: Pick<Request, 'query'>): Standpoint => ({
  asOf: asOf === undefined ? undefined : String(asOf as string),
  plan: plan === undefined ? undefined : String(plan as string).toLowerCase(),
});
