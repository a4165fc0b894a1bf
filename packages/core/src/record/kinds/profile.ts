import { among, choice, flag, initially, integer, name, since, text, texts } from '../field.js';
import { IDENTITY_ITEMS } from './clone.js';
import { described } from './described.js';
import { FAMILIES } from './guest.js';

/**
 * A role that guests play: how large it is at least and usually, how it grows with its load, what its system drives on
 * the first boot, what a copy of it must be given anew. Common practice, no source; every value can be altered.
 */
export const profile = {
  fields: {
    name: name(),
    family: choice(...FAMILIES),
    display: initially(choice('text', 'graphical'), 'text'),
    minimumVcpu: initially(integer(1, 4096), 1),
    minimumMemoryMiB: initially(integer(1), 512),
    /** Of its system volume; 0 where it needs none. */
    minimumBytes: initially(integer(0), 8_589_934_592),
    usualVcpu: initially(integer(1, 4096), 2),
    usualMemoryMiB: initially(integer(1), 2048),
    usualBytes: initially(integer(0), 53_687_091_200),
    /** A second volume for what it keeps; 0: none. */
    usualDataBytes: initially(integer(0), 0),
    /** What its load is counted in: users, cameras, GB kept. Empty: its size does not depend on a load. */
    loadUnit: text(40),
    /** Load that the usual size serves; above it grows, step by step. */
    usualLoad: initially(integer(0), 0),
    loadStep: initially(integer(1), 1),
    /** Thousandths of a vCPU for each step of load. */
    stepMilliVcpu: initially(integer(0), 0),
    stepMemoryMiB: initially(integer(0), 0),
    stepDataBytes: initially(integer(0), 0),
    adapters: initially(integer(1, 16), 1),
    /** Its kernel brings the drivers for paravirtual disks and adapters: otherwise the first boot finds neither. */
    paravirtualDisk: flag(true),
    paravirtualNetwork: flag(true),
    uefi: flag(true),
    legacyBoot: flag(true),
    /** It is a hypervisor itself: virtualisation has to be passed through. */
    nested: flag(),
    forwards: flag(),
    /** Two of its kind do not belong on one host. */
    apart: flag(),
    startSeconds: initially(integer(0, 86_400), 60),
    /** Items of identity that a copy must be given anew; empty: all that are known. */
    identity: among(texts(), IDENTITY_ITEMS),
    /** Items beside those that are known, in words. */
    moreIdentity: since(8, texts()),
    /** What a first-start file asks its system to install, by the names its family gives them. */
    packages: since(9, texts()),
    /** Public keys for signing in, by the name under which a place keeps them; never the keys. */
    signInKeys: since(9, texts()),
    ...described,
  },
};
