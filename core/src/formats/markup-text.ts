const ENTITIES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** Text as XML and HTML hold it, between tags and in attributes: what XML may not contain is left out (XML 1.0, production 2). */
export const markupText = (text: string): string =>
  text
    .replace(/[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '')
    .replace(/[&<>"]/g, (letter) => ENTITIES[letter]);
