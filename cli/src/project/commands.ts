import { Option, type Command } from 'commander';
import { CommandFailed } from '../fail';
import { readMapFile } from '../map-file';
import { showProgress, showResult } from '../progress';
import { voiceOf, withVoice, type VoiceFlags } from '../voice-options';
import { exportForms, type ExportForm } from './export';

/** The status a check ends with that found something; what failed ends with 1. */
const FOUND = 2;

interface RenderFlags {
  preset: string;
  out: string;
  name: string;
  range: 'all' | 'markers';
  clip?: string;
}

/** Commands that work on whole projects, or on many files: nobody need look on. */
export function addProjectCommands(program: Command): void {
  const project = program.command('project').description('work on a project file: an archive with its media');

  project
    .command('render')
    .description('render the film, or a clip, by a preset, as the interface would')
    .argument('<file.zip>', 'the project with its media')
    .requiredOption('--preset <name>', 'a preset of the program or of the project')
    .requiredOption('--out <folder>', 'output folder')
    .option('--name <pattern>', 'pattern of the file names', '{name}')
    .addOption(
      new Option('--range <range>', 'all, or a file from each marker to the next')
        .choices(['all', 'markers'])
        .default('all'),
    )
    .option('--clip <name>', 'a clip by itself, with all of its timing')
    .action(async (path: string, flags: RenderFlags) => {
      const { renderProject } = await import('./render');
      await renderProject(path, { ...flags, onProgress: showProgress, onFile: showResult });
    });

  project
    .command('check')
    .description('print what may be wrong with the film before it goes out; status 2 where there is something')
    .argument('<file.zip>', 'the project with its media')
    .action(async (path: string) => {
      const { checkLines } = await import('./check');
      const lines = await checkLines(path);
      for (const line of lines) console.log(line);
      if (lines.length > 0) process.exitCode = FOUND;
    });

  project
    .command('export')
    .description('write the timing for other programs')
    .argument('<file>', 'the project, with or without its media')
    .requiredOption('--out <file>', 'the file to make')
    .addOption(new Option('--as <form>', 'what it is; .otio, .edl and .vtt say so themselves').choices(exportForms))
    .action(async (path: string, { out, as }: { out: string; as?: ExportForm }) => {
      const { exportProject } = await import('./export');
      for (const note of await exportProject(path, out, as)) console.error(note);
      console.log(out);
    });

  withVoice(program.command('apply'))
    .description('render many clips with one timing, each to a file of its name')
    .argument('<clips...>', 'the clips')
    .requiredOption('--map <map.json>', 'map file (docs/formats.md)')
    .requiredOption('--out <folder>', 'output folder')
    .option('--scaled', 'scale the timing to each clip’s length')
    .addOption(
      new Option('--as <ending>', 'what files become')
        .choices(['mp4', 'mov', 'webm', 'mkv', 'gif', 'wav', 'flac', 'mp3', 'm4a', 'ogg'])
        .default('mp4'),
    )
    .action(
      async (
        clips: string[],
        { map, out, scaled, as, ...voice }: VoiceFlags & { map: string; out: string; scaled?: boolean; as: string },
      ) => {
        const timing = await readMapFile(map);
        const { applyTo } = await import('./apply');
        const settings = voiceOf(voice);
        const failed = await applyTo(clips, {
          ...{ map: timing, out, as, how: scaled ? 'shape' : 'exact' },
          ...(settings && { voice: settings }),
          onProgress: showProgress,
          onFile: (file, result) => showResult(file, result, timing.outputRate),
          // What can't be read names itself.
          onFault: (clip, words) => console.error(words.startsWith(`${clip}:`) ? words : `${clip}: ${words}`),
        });
        if (failed > 0) throw new CommandFailed(`${failed} of ${clips.length} clips failed`);
      },
    );

  program
    .command('convert')
    .description(
      'make of files that browsers don’t decode ones that they do: MOV with H.264 and PCM, every frame at its own time',
    )
    .argument('<files...>', 'such as HEVC, ProRes, MPEG-2 or AVI')
    .requiredOption('--out <folder>', 'output folder')
    .action(async (files: string[], { out }: { out: string }) => {
      const { convertAll } = await import('../convert');
      const tell = process.stderr.isTTY;
      const failed = await convertAll(files, {
        out,
        onProgress: (file, share) =>
          tell && process.stderr.write(`\r${file}: ${share === undefined ? '…' : `${Math.round(100 * share)} %`}  `),
        onFile: (file, to, what) => {
          if (tell) process.stderr.write('\n');
          console.log(`${to}: from ${what}`);
        },
        onFault: (file, words) => console.error(`${file}: ${words}`),
      });
      if (failed > 0) throw new CommandFailed(`${failed} of ${files.length} files failed`);
    });
}
