import { describe, expect, it, vi } from 'vitest';

vi.mock('../pdf/pdf-document', () => ({}));
vi.mock('../pictures/prepare-picture', () => ({}));
vi.mock('../server/upload', () => ({}));
const { studentOf } = await import('./brought');

const CLASS = ['Ida', 'Per', 'Per Anker', 'Åse Lund'].map((name) => ({ name }));
const named = (file: string) => studentOf(file, CLASS)?.name ?? null;

describe('whose a file is', () => {
  it('is told by the whole of a name in it, however it is written', () => {
    expect(named('ida - leading line.pdf')).toBe('Ida');
    expect(named('Anker_Per_task-3.PDF')).toBe('Per Anker');
    expect(named('per.jpg')).toBe('Per');
    expect(named('Lund, ase.png')).toBe('Åse Lund');
  });

  it('is not told where nobody’s name is in it, or more than one’s', () => {
    expect([named('scan0001.pdf'), named('Idar.pdf'), named('Ida and Per.pdf')]).toEqual([null, null, null]);
  });
});
