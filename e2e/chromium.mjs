// The Chromium of this machine, without windows and without questions to the world; what journeys, pictures, benchmarks and checks share.
import { execFileSync } from 'node:child_process';

export const CHROMIUM = {
  executablePath: execFileSync('sh', ['-c', 'command -v chromium-headless-shell'], {
    encoding: 'utf8',
  }).trim(),
  chromiumSandbox: false,
  args: ['--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
};
