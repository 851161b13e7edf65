/** A PDF says so within its first 1024 bytes (ISO 32000-1, annex H, implementation note 13). */
export async function isPdf(file: File): Promise<boolean> {
  return new TextDecoder('latin1').decode(await file.slice(0, 1024).arrayBuffer()).includes('%PDF-');
}
