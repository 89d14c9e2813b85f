import { packages } from './framework';

/** Why a file can't be converted, in words. */
export class ConversionFailed extends Error {
  override readonly name = 'ConversionFailed';
}

/** The framework is not there. */
export const missing = (): ConversionFailed =>
  new ConversionFailed(`GStreamer is missing. Install Debian’s packages: apt-get install ${packages.join(' ')}`);
