import {
  chapterComments,
  freeBox,
  id3Tag,
  markMovie,
  markSegment,
  markWave,
  matroskaRoom,
  movieRoom,
  ROOM_TAG,
  sampleRateOf,
  timecodeText,
  type Bytes,
  type FileMarks,
  type Patch,
} from '@hastig/core';
import type { MetadataTags, StreamTargetChunk } from 'mediabunny';
import type { RenderJob } from './job';

/** Bytes of a file's beginning that are kept until its end, beside the room for its chapters: its head lies in them. */
const HEAD = 2 ** 18;

/** Bytes that one more packet reserves in an index, at least. */
const PACKET_ROOM = 32;

type Marked = Pick<RenderJob, 'format' | 'marks' | 'title' | 'sampleRate' | 'soundCoding'>;

const isMovie = ({ format }: Marked): boolean => format === 'mp4' || format === 'mov' || format === 'm4a';
const isMatroska = ({ format }: Marked): boolean => format === 'mkv' || format === 'webm';

/** What a file says of itself: its title; and chapters and timecode, where tags are what the format has for them. */
function tagsOf(job: Marked, room: Bytes | undefined): MetadataTags {
  const { format, marks, title } = job;
  const raw: NonNullable<MetadataTags['raw']> = {
    ...(marks?.timecode && isMatroska(job) && { TIMECODE: timecodeText(marks.timecode) }),
    ...(room && { [ROOM_TAG]: room }),
    ...(marks && (format === 'flac' || format === 'ogg') && chapterComments(marks)),
  };
  return { ...(title && { title }), ...(Object.keys(raw).length > 0 && { raw }) };
}

/** Packets to be reserved in a file's index beside its own, so that its marks find room there. */
export const markPackets = (job: Marked): number =>
  job.marks && isMovie(job) ? Math.ceil(movieRoom(job.marks) / PACKET_ROOM) + 1 : 0;

/** A file on its way to where it is written, which gets its chapters and start timecode on the way. */
export class MarkedFile {
  /** What is written to. */
  readonly writable: WritableStream<StreamTargetChunk>;
  /** What is told in tags, as it begins. */
  readonly tags: MetadataTags;
  private readonly before: Bytes | undefined;
  private readonly head: Bytes;
  private end = 0;
  private movie: { at: number; bytes: Uint8Array } | undefined;

  /** @param onEnd hears how many bytes there are */
  constructor(
    private readonly job: Marked,
    private readonly under: WritableStream<StreamTargetChunk>,
    private readonly onEnd: (end: number) => void,
  ) {
    const { marks, title = '' } = job;
    this.before = marks && job.format === 'mp3' ? id3Tag(marks, title) : undefined;
    const room = marks && isMatroska(job) ? matroskaRoom(marks) : undefined;
    // The tag of MP3 with chapters has its title too.
    this.tags = this.before ? {} : tagsOf(job, room);
    this.head = new Uint8Array(HEAD + (room?.length ?? 0));
    this.writable = this.through();
  }

  /** The index of MP4, MOV or M4A was written, with what was reserved for it. */
  readonly onMovie = (bytes: Uint8Array, at: number): void => {
    this.movie = { bytes: bytes.slice(), at };
  };

  private through(): WritableStream<StreamTargetChunk> {
    const writer = this.under.getWriter();
    const put = async ({ at, bytes }: Patch): Promise<void> => {
      await writer.write({ type: 'write', data: bytes, position: at });
      this.end = Math.max(this.end, at + bytes.length);
      this.onEnd(this.end);
    };
    return new WritableStream({
      start: async () => {
        if (this.before) await put({ at: 0, bytes: this.before });
      },
      write: async ({ data, position }) => {
        const at = position + (this.before?.length ?? 0);
        if (at < this.head.length) this.head.set(data.subarray(0, this.head.length - at), at);
        await put({ at, bytes: data as Bytes });
      },
      close: async () => {
        const { marks } = this.job;
        if (marks) for (const patch of this.patches(marks)) await put(patch);
        await writer.close();
      },
      abort: (reason) => writer.abort(reason),
    });
  }

  private patches(marks: FileMarks): Patch[] {
    const { job, movie, end } = this;
    if (movie) return this.moviePatches(marks, movie);
    if (isMatroska(job) && marks.chapters.length > 0) return markSegment(this.head, marks);
    return job.format === 'wav' ? markWave(this.head, marks, end, sampleRateOf(job)) : [];
  }

  private moviePatches(marks: FileMarks, { at, bytes }: { at: number; bytes: Uint8Array }): Patch[] {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const size = view.getUint32(0);
    const marked = markMovie(bytes.subarray(0, size), marks, this.end);
    if (!marked) return [];
    const { movie, tail } = marked;
    // What was reserved and not used is a box of nothing, of which only the head is told.
    const left = size + view.getUint32(size) - movie.length;
    if (left < 8) throw new RangeError('There is no room for chapters and timecode.');
    return [
      { at: this.end, bytes: tail },
      { at, bytes: movie },
      { at: at + movie.length, bytes: freeBox(left) },
    ];
  }
}
