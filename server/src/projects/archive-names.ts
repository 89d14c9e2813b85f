/** Names inside an archive. */
export const PROJECT_NAME = 'project.json';

/** A media file's name in an archive. */
export const mediaName = (sha256: string): string => `media/${sha256}`;

/** What was made of a media file that browsers don't decode, by its name in an archive. */
export const convertedName = (sha256: string): string => `converted/${sha256}`;

/** The digest of the media file of which what goes by a name was made, if it was. */
export const convertedOfName = (name: string): string | undefined => /^converted\/([0-9a-f]{64})$/.exec(name)?.[1];

/** The digest of the media file that goes by a name in an archive, if one does. */
export const mediaOfName = (name: string): string | undefined => /^media\/([0-9a-f]{64})$/.exec(name)?.[1];
