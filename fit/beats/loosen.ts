import { parseMidi, writeMidi, type MidiEvent } from 'midi-file';
import seedrandom from 'seedrandom';
import type { Recipe } from './recipe';

/** Ticks that one of the file's is cut into, so that a millisecond can be told. */
const FINER = 10;

/** Beats a minute at a beat. */
function tempoAt({ tempo, course, change }: Recipe, beat: number, beats: number): number {
  if (course === 'drift') return tempo * (1 + change * Math.sin((2 * Math.PI * beat) / beats));
  return course === 'step' && beat >= beats / 2 ? tempo * (1 + change) : tempo;
}

/**
 * A MIDI file as people would play it: each note a little off, the tempo drifting or changing.
 *
 * @returns the file, and the seconds of each beat in it
 */
export function loosen(midi: Uint8Array, recipe: Recipe): { midi: Uint8Array; beats: number[] } {
  const random = seedrandom(`loose ${recipe.id}`);
  const { header, tracks } = parseMidi(midi);
  const perBeat = (header.ticksPerBeat ?? 192) * FINER;
  const count = recipe.bars.length * recipe.style.meter;
  const beats = [0];
  const tempi: MidiEvent[] = [];
  for (let beat = 0; beat < count; beat++) {
    const seconds = 60 / tempoAt(recipe, beat, count);
    const microsecondsPerBeat = Math.round(seconds * 1e6);
    tempi.push({ deltaTime: beat === 0 ? 0 : perBeat, meta: true, type: 'setTempo', microsecondsPerBeat });
    beats.push(beats.at(-1)! + microsecondsPerBeat / 1e6);
  }
  const off = (recipe.loose * recipe.tempo * perBeat) / 60;
  const loosened = tracks.map((events) => {
    let at = 0;
    const moved = events
      .map((event, order) => ({ event, order, at: (at += event.deltaTime * FINER) }))
      .filter(({ event }) => event.type !== 'setTempo' && event.type !== 'endOfTrack');
    /** By how much a note that sounds was moved, so that it ends later by as much. */
    const by = new Map<string, number>();
    for (const one of moved) {
      const { event } = one;
      if (event.type !== 'noteOn' && event.type !== 'noteOff') continue;
      const note = `${event.channel} ${event.noteNumber}`;
      if (event.type === 'noteOn' && event.velocity > 0) by.set(note, off * (2 * random() - 1));
      one.at = Math.max(0, Math.round(one.at + (by.get(note) ?? 0)));
    }
    let last = 0;
    const row = moved
      .sort((a, b) => a.at - b.at || a.order - b.order)
      .map(({ event, at: place }): MidiEvent => {
        const deltaTime = place - last;
        last = place;
        return { ...event, deltaTime };
      });
    return [...row, { deltaTime: 0, meta: true, type: 'endOfTrack' } satisfies MidiEvent];
  });
  const all = [[...tempi, { deltaTime: 0, meta: true, type: 'endOfTrack' } satisfies MidiEvent], ...loosened];
  const bytes = writeMidi({
    header: { ...header, format: 1, numTracks: all.length, ticksPerBeat: perBeat },
    tracks: all,
  });
  return { midi: Uint8Array.from(bytes), beats };
}
