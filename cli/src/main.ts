import {
  combines,
  edgeWays,
  fieldUses,
  renderQualities,
  slowWays,
  type Counting,
  type EdgeWay,
  type Fields,
  type FieldUse,
  type Rate,
  type RenderQuality,
  type SlowWay,
  type Trail,
} from '@hastig/contract';
import { instant, onsetBands, type OnsetBand, type TrackBox } from '@hastig/core';
import { Command, Option } from 'commander';
import {
  collectedSpeed,
  parsedBox,
  parsedCount,
  parsedFrame,
  parsedFrames,
  parsedRate,
  parsedSamples,
  parsedShutter,
  parsedSmooth,
  parsedSpeed,
  parsedTrack,
  parsedTrail,
} from './arguments';
import { beatLines, momentLines, onsetLines } from './beat-tables';
import { burstMap, readSeconds, type BurstFlags } from './burst';
import { isForPeople } from './fail';
import { frameMapLines } from './frame-map';
import { fileMarks, type MarkFlags } from './file-marks';
import { readMapFile } from './map-file';
import { showProgress, showResult } from './progress';
import { addProjectCommands } from './project/commands';
import { readTrack, trackLines } from './track-table';
import { voiceOf, withVoice, type VoiceFlags } from './voice-options';

const program = new Command('hastig').description('Retime clips from the command line').showHelpAfterError();

program
  .command('frame-map')
  .description('print the source frame of each output frame, as CSV')
  .argument('<map.json>', 'map file (docs/formats.md)')
  .action(async (path: string) => {
    const map = await readMapFile(path);
    // In pieces, so that a long map neither fills memory nor is lost when the reader closes early.
    let piece = '';
    for (const line of frameMapLines(map)) {
      piece += `${line}\n`;
      if (piece.length > 65_536) {
        if (!process.stdout.write(piece)) await new Promise((resolve) => process.stdout.once('drain', resolve));
        piece = '';
      }
    }
    process.stdout.write(piece);
  });

interface SoundFlags extends VoiceFlags {
  source: string;
  out: string;
}

interface RenderFlags extends MarkFlags, VoiceFlags {
  source: string;
  map: string;
  out: string;
  quality: RenderQuality;
  sound: boolean;
  fields?: FieldUse;
  firstField?: Fields['first'];
  frameByFrame?: boolean;
  countAt?: Rate;
  soundTrack?: number;
  slow: SlowWay;
  shutter: number;
  samples: number | 'auto';
  every?: number;
  everyFrom: number;
  averageMost?: number;
  keyFrames?: boolean;
  evenLight?: boolean;
  trail?: Trail;
  steady?: string;
  smooth?: number | 'tripod';
  perspective?: boolean;
  edges: EdgeWay;
}

withVoice(program.command('render'))
  .description(
    'render a clip with the timing of a map file, as its file’s ending says: MP4 (H.264, AAC), .webm (VP9, Opus) or .wav (sound alone)',
  )
  .requiredOption('--source <clip>', 'the clip')
  .requiredOption('--map <map.json>', 'map file (docs/formats.md)')
  .requiredOption('--out <out.mp4>', 'the file to make')
  .addOption(new Option('--quality <quality>', 'of the picture').choices([...renderQualities]).default('high'))
  .option('--no-sound', 'render without sound')
  .addOption(
    new Option('--fields <use>', 'how to use the fields of an interlaced clip; default: as the clip suggests').choices([
      ...fieldUses,
    ]),
  )
  .addOption(new Option('--first-field <lines>', 'field order of an interlaced clip').choices(['top', 'bottom']))
  .addOption(new Option('--sound-track <number>', 'sound track to use; default: the first').argParser(parsedTrack))
  .addOption(
    new Option('--count-at <fps>', 'play variable-rate frames at this rate; default: the best fit').argParser(
      parsedRate,
    ),
  )
  .addOption(
    new Option(
      '--slow <way>',
      'between frames: hold the one that stands, blend its neighbours, or make what moved on its way',
    )
      .choices([...slowWays])
      .default(instant.slow),
  )
  .option(
    '--shutter <degrees>',
    'how long each picture is exposed: 0 an instant, 180 half of it, 360 until the next',
    parsedShutter,
    instant.shutter,
  )
  .option(
    '--samples <n>',
    'moments of an exposure that are looked at where it is slow, or auto: as many as the movement in it asks for',
    parsedSamples,
    'auto' as const,
  )
  .option('--steady <track.csv>', 'hold still what “track” found, where it is in the frame its box was put on')
  .addOption(
    new Option(
      '--smooth <seconds>',
      'smooth the camera’s own movement: what swings faster than so many seconds goes; tripod: all of it, as on the first frame',
    )
      .argParser(parsedSmooth)
      .conflicts('steady'),
  )
  .option('--perspective', 'with --smooth: take out tilt too, not only position, rotation and size')
  .addOption(
    new Option('--edges <way>', 'of a steadied picture: enlarged all the time or as needed, or mirrored')
      .choices([...edgeWays])
      .default('mirror'),
  )
  .option(
    '--trail <seconds,copies,decay,combine>',
    `copies of earlier pictures, or of later ones where seconds are less than 0; ${combines.join(', ')}`,
    parsedTrail,
  )
  .option('--title <text>', 'title, in the file’s tags')
  .option('--timecode <hh:mm:ss:ff>', 'start timecode, in files that have one')
  .option('--markers <file.csv>', 'markers (CSV or .vtt) that become chapters, in files that have them')
  .option('--every <n>', 'of the frames that pass, look only at every n-th', parsedCount)
  .option('--every-from <frame>', 'the frame from which they are counted', parsedFrame, 0)
  .option('--average-most <n>', 'average at most so many frames in one picture', parsedCount)
  .option('--even-light', 'even out light that flickers from frame to frame')
  .option('--key-frames', 'use only frames that are coded by themselves: a quick draft')
  .addOption(new Option('--frame-by-frame', 'play each frame once, whatever its duration').conflicts('countAt'))
  .action(
    async ({
      map: mapPath,
      fields: use,
      firstField: first,
      frameByFrame,
      countAt,
      soundTrack,
      slow,
      shutter,
      samples,
      every,
      everyFrom,
      averageMost,
      keyFrames,
      evenLight,
      trail,
      steady,
      smooth,
      perspective,
      edges,
      timecode,
      markers,
      pitch,
      shift,
      focus,
      formants,
      freeze,
      ...flags
    }: RenderFlags) => {
      const map = await readMapFile(mapPath);
      const voice = voiceOf({ pitch, shift, focus, formants, freeze });
      const marks = await fileMarks({ title: flags.title, timecode, markers }, map);
      // Only here, since browser and bundler take a second to load.
      const { renderFile } = await import('./render');
      const counting: Counting | undefined = frameByFrame
        ? { by: 'frame' }
        : countAt && { by: 'nearest', rate: countAt };
      const result = await renderFile({
        ...flags,
        map,
        exposure: {
          ...{ slow, shutter, samples },
          ...(every !== undefined && { every: { frames: every, from: everyFrom } }),
          ...(averageMost !== undefined && { most: averageMost }),
          ...(keyFrames && { keys: true }),
          ...(evenLight && { evenLight }),
        },
        ...(trail && { effects: [trail] }),
        ...(steady !== undefined && { steady: { points: await readTrack(steady), edges } }),
        ...(smooth !== undefined && {
          smooth: {
            ...(smooth !== 'tripod' && { seconds: smooth }),
            ...({ model: perspective ? 'perspective' : 'similarity', edges } as const),
          },
        }),
        fields: { use, first },
        marks,
        ...(voice && { voice }),
        ...(counting && { counting }),
        ...(soundTrack && { soundTrack: soundTrack - 1 }),
        onProgress: showProgress,
        onAnalysed: (frames) => process.stderr.isTTY && process.stderr.write(`\rcamera: ${frames} frames`),
        onWarning: (words) => console.error(`${flags.source}: ${words}`),
      });
      showResult(flags.out, result, map.outputRate);
    },
  );

const bandOption = new Option('--band <band>', 'only this band').choices([...onsetBands]);

program
  .command('beats')
  .description('find the beats of music and print them as CSV: seconds, downbeat, strength')
  .argument('<file>', 'a file with sound')
  .option('--as-played', 'leave beats where they are heard, also where one tempo explains all of them')
  .action(async (path: string, { asPlayed }: { asPlayed?: boolean }) => {
    const { fileBeats } = await import('./listen');
    console.log(beatLines(await fileBeats(path), asPlayed).join('\n'));
  });

program
  .command('onsets')
  .description('find the hits in sound and print them as CSV: seconds, band, strength')
  .argument('<file>', 'a file with sound')
  .addOption(bandOption)
  .action(async (path: string, { band }: { band?: OnsetBand }) => {
    const { fileHits } = await import('./listen');
    console.log(onsetLines(await fileHits(path, band)).join('\n'));
  });

program
  .command('moments')
  .description('find moments in a clip’s picture and sound and print them as CSV: frame, kind, strength')
  .argument('<clip>', 'a file with a moving picture')
  .action(async (path: string) => {
    const { momentsOf } = await import('./moments');
    console.log(momentLines(await momentsOf(path)).join('\n'));
  });

program
  .command('track')
  .description('follow what a box shows through a clip and print it as CSV: frame, x, y, confidence')
  .argument('<clip>', 'a file with a moving picture')
  .requiredOption('--frame <n>', 'the frame the box is put on, counted from 0', parsedFrame)
  .requiredOption('--box <x,y,w,h>', 'the box, in pixels of the picture as displayed', parsedBox)
  .action(async (path: string, { frame, box }: { frame: number; box: TrackBox }) => {
    const { trackOf } = await import('./track');
    const tell = process.stderr.isTTY;
    const points = await trackOf(path, { frame, box }, (frames) => tell && process.stderr.write(`\r${frames} frames`));
    if (tell) process.stderr.write('\n');
    console.log(trackLines(points).join('\n'));
  });

program
  .command('burst')
  .description('add bursts of speed at beats to a map file and print the new map')
  .requiredOption('--map <map.json>', 'map file (docs/formats.md)')
  .requiredOption('--beats <beats.csv>', 'table with seconds in its first column, as “beats” prints')
  .requiredOption('--base <speed>', 'speed between bursts, such as 50%', parsedSpeed)
  .requiredOption('--speed <speed...>', 'speed of the bursts, such as 800%; several take turns', collectedSpeed)
  .requiredOption('--frames <n>', 'output frames of a burst', parsedFrames)
  .option('--every <n>', 'use every nth beat', parsedCount, 1)
  .option('--ramp <n>', 'output frames of the ramp at each edge', parsedFrames, 0)
  .addOption(new Option('--landing', 'bursts end on beats instead of starting there').conflicts('centred'))
  .option('--centred', 'bursts lie to both sides of beats')
  .addOption(
    new Option('--keep <what>', 'what stays: the duration or the content')
      .choices(['length', 'content'])
      .default('length'),
  )
  .action(
    async ({
      map: mapPath,
      beats,
      landing,
      centred,
      ...flags
    }: Omit<BurstFlags, 'place'> & { map: string; beats: string; landing?: boolean; centred?: boolean }) => {
      const place = landing ? 'to' : centred ? 'centred' : 'from';
      const map = burstMap(await readMapFile(mapPath), await readSeconds(beats), { ...flags, place });
      console.log(JSON.stringify(map, null, 2));
    },
  );

withVoice(program.command('sound'))
  .description('write a clip’s sound with the timing of a map file, as WAV (32-bit float)')
  .requiredOption('--source <file>', 'a file with sound')
  .requiredOption('--map <map.json>', 'map file (docs/formats.md); its source rate counts the frames of sound alone')
  .requiredOption('--out <out.wav>', 'the file to make')
  .addOption(new Option('--rate <hertz>', 'samples a second').choices(['44100', '48000', '96000']).default('48000'))
  .action(
    async ({ source, map: mapPath, out, rate, shift: cents, ...voice }: SoundFlags & { map: string; rate: string }) => {
      const map = await readMapFile(mapPath);
      const { soundFile } = await import('./sound');
      const samples = await soundFile({ source, map, out, settings: { ...voice, cents }, rate: Number(rate) });
      console.log(`${out}: ${samples} samples, ${(samples / Number(rate)).toFixed(3)} s`);
    },
  );

program
  .command('loudness')
  .description('print how loud a file is: integrated,range,momentary_max,short_term_max,true_peak (LUFS, LU, dBTP)')
  .argument('<file>', 'a file with sound')
  .action(async (path: string) => {
    const { loudnessLine } = await import('./sound');
    console.log(await loudnessLine(path));
  });

addProjectCommands(program);

// A reader such as `head` may close the pipe early; that is no fault.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(0);
  throw error;
});

program.parseAsync().catch((error: unknown) => {
  console.error(isForPeople(error) ? `hastig: ${error.message}` : error);
  process.exitCode = 1;
});
