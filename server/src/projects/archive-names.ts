/** Names inside an archive. */
export const PROJECT_NAME = 'project.json';

/** A media file's name in an archive. */
export const mediaName = (sha256: string): string => `media/${sha256}`;

/** The digest of the media file that goes by a name in an archive, if one does. */
export const mediaOfName = (name: string): string | undefined => /^media\/([0-9a-f]{64})$/.exec(name)?.[1];
