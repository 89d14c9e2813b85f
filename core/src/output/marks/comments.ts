import { secondsAt, type FileMarks } from './file-marks';

/** Chapters of FLAC and Ogg as comments: `CHAPTER001=00:00:01.000`, `CHAPTER001NAME=…`, as the Xiph wiki describes; from memory. */
export function chapterComments(marks: FileMarks): Record<string, string> {
  const two = (value: number): string => String(value).padStart(2, '0');
  return Object.fromEntries(
    marks.chapters.flatMap(({ from, name }, index) => {
      const ms = Math.round(secondsAt(marks, from) * 1000);
      const seconds = Math.floor(ms / 1000);
      const clock = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60].map(two).join(':');
      const key = `CHAPTER${String(index + 1).padStart(3, '0')}`;
      return [
        [key, `${clock}.${String(ms % 1000).padStart(3, '0')}`],
        [`${key}NAME`, name],
      ];
    }),
  );
}
