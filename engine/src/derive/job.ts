import type { DerivedKey, DerivedPiece } from '@hastig/contract';
import type { FileLocation } from '../media/location';
import type { PieceSpan } from './pieces';

/** Something to be derived from a source's file. */
export interface DeriveJob extends DerivedKey {
  location: FileLocation;
  /** Pieces that are there already. */
  there: readonly DerivedPiece[];
  /** Where in the whole it is wanted first, 0 to 1; at its beginning unless told. */
  near?: number;
  /** Where pieces go: this address, a slash, the piece's number. */
  address: string;
}

export interface DeriveProgress {
  /** Units of the whole (frames, samples) that are there, and all of them. */
  done: number;
  total: number;
  /** A piece that was sent just now. */
  sent?: DerivedPiece;
}

/** What makes one kind of thing, piece by piece. */
export interface Maker {
  /** Units of the whole, and in every piece but the last. */
  total: number;
  perPiece: number;
  /**
   * @param onDone hears how many units of the piece are done
   * @throws what decoder and encoder throw; the reason of `signal` when it is aborted
   */
  make(span: PieceSpan, onDone: (count: number) => void, signal: AbortSignal): Promise<ArrayBuffer>;
  close(): Promise<void>;
}
