/** How far a host may be promised. Host groups will carry their own; until then one policy holds for all. */
export interface Policy {
  vcpuPerCore: number;
}

/** General servers: 4 vCPU per core; memory is never promised twice. Common practice, no source. */
export const DEFAULT_POLICY: Policy = { vcpuPerCore: 4 };
