/** A code as it is read across a room: two groups are read and typed more surely than one. */
export const codeText = (code: string): string => code.replace(/^(...)(...)$/, '$1 $2');
