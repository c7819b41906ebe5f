/**
 * Signs no words have, for a class of a regular expression: control characters; halves of a character, which the database and other programs
 * do not take; and those that are not seen, or that turn the direction of what stands beside them (Unicode Standard Annex 9), by which a name
 * is made to look like another. No schema stands here, so that the application can take it.
 */
export const noWords = '\\p{Cc}\\p{Cs}\\u200B\\u200E\\u200F\\u2028-\\u202E\\u2060-\\u206F\\uFEFF';
