/** Channels of sound, in words. */
export function channelsOf(count: number): string {
  return count === 1 ? 'mono' : count === 2 ? 'stereo' : `${count} channels`;
}
