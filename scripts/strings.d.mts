/** Every text somebody may read: file from the project's root, line from 1, and the text. */
export function gather(): { file: string; line: number; text: string }[];
