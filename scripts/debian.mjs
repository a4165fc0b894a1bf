/** Packages of Debian: those that Insel needs to run, and those that its tests ask. Nothing but Node.js, since it runs first. */
import { spawnSync } from 'node:child_process';
import { existsSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** @param sudo how root is become: nothing as root. @throws Error where they cannot be installed */
export function installDebianPackages(sudo, packages) {
  const apt = [
    ...sudo,
    'env',
    'DEBIAN_FRONTEND=noninteractive',
    'apt-get',
    '-o',
    'DPkg::Lock::Timeout=300',
  ];
  for (let attempt = 1; ; attempt += 1) {
    const update = spawnSync(apt[0], [...apt.slice(1), 'update', '-qq'], {
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    const install = spawnSync(apt[0], [...apt.slice(1), 'install', '-y', '-qq', ...packages], {
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    if (install.status === 0) return;
    if (attempt === 3)
      throw new Error(
        `apt-get could not install ${packages.join(' ')} (update ended with ${update.status}, install with ${install.status}).`,
      );
  }
}

/** Programs of Debian that the outside checks ask, by package. */
const CHECKERS = {
  ip: 'iproute2',
  nft: 'nftables',
  ping: 'iputils-ping',
  'named-checkzone': 'bind9-utils',
  dnsmasq: 'dnsmasq-base',
  'kea-dhcp4': 'kea-dhcp4-server',
  xorriso: 'xorriso',
  bsdtar: 'libarchive-tools',
};

/** As root they are installed, without any service of theirs being started; otherwise what is missing is skipped and counted as skipped. */
export function ensureCheckers() {
  const missing = Object.entries(CHECKERS).filter(
    ([program]) =>
      !['/usr/sbin', '/usr/bin', '/sbin', '/bin'].some((folder) =>
        existsSync(join(folder, program)),
      ),
  );
  if (missing.length === 0) return;
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) {
    console.log(
      `Outside checks by ${missing.map(([program]) => program).join(', ')} are skipped: installing them takes root on Debian.`,
    );
    return;
  }
  console.log('Installing the programs of the outside checks from Debian …');
  const guard = '/usr/sbin/policy-rc.d';
  const mine = !existsSync(guard);
  if (mine) writeFileSync(guard, '#!/bin/sh\nexit 101\n', { mode: 0o755 });
  try {
    installDebianPackages(
      [],
      missing.map(([, name]) => name),
    );
  } finally {
    if (mine) rmSync(guard, { force: true });
  }
}

export function ensureChromium() {
  if (existsSync('/usr/bin/chromium')) return;
  console.log('Installing Chromium from Debian …');
  const root = process.getuid?.() === 0;
  if (!root && spawnSync('sudo', ['-n', 'true']).status !== 0)
    throw new Error('Chromium is not installed. Run: sudo apt-get install chromium');
  installDebianPackages(root ? [] : ['sudo'], ['chromium']);
}
