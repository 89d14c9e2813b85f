/** A problem document (RFC 9457), as every refused request is answered. */
export interface Problem {
  type: string;
  title: string;
  status: number;
  detail?: string;
  /** Each wrong field as a JSON Pointer (RFC 6901) and the reason. */
  errors?: FieldError[];
}

export interface FieldError {
  /** JSON Pointer to the field; empty for the whole body. */
  pointer: string;
  reason: string;
}

export const PROBLEM_MEDIA_TYPE = 'application/problem+json';

/** The `type` addresses of the problems that a client treats in their own way. */
export const problemTypes = {
  stale: 'urn:hastig:problem:stale-revision',
  invalid: 'urn:hastig:problem:invalid',
  notFound: 'urn:hastig:problem:not-found',
  refusedMedia: 'urn:hastig:problem:refused-media',
  storageFull: 'urn:hastig:problem:storage-full',
  unavailable: 'urn:hastig:problem:unavailable',
} as const;
