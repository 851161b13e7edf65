import { minutesText } from '../publishing/minutes-text';
import type { LessonRow, LinkRow, MailRow, PublicationRow, TeacherRow } from '../database/rows';
import type { Letter } from './post';

/** What a letter with a link tells: who sends it, what it leads to, and how one gets in. */
export function letterOf(
  { id, sent_to, note, origin }: MailRow,
  teacher: TeacherRow,
  lesson: LessonRow,
  link: LinkRow,
  publication: PublicationRow,
): Letter {
  const host = new URL(origin).hostname;
  const lines = [
    note,
    `${lesson.title} (${minutesText(Number(publication.length_samples))})\n${origin}/w/${link.token}`,
    'It opens on any phone or computer, without an account.',
    link.passcode_hash === null ? '' : `It asks for a passcode, which ${teacher.name} tells you.`,
    link.ends_at === null ? '' : `It can be watched until ${untilText(link.ends_at)}.`,
    teacher.name,
  ];
  return {
    mail: id,
    messageId: `<${id}@${host}>`,
    to: sent_to,
    fromName: teacher.name,
    replyTo: teacher.email,
    subject: lesson.title,
    text: `${lines.filter(Boolean).join('\n\n')}\n`,
  };
}

const UNTIL = new Intl.DateTimeFormat('en', { dateStyle: 'long', timeStyle: 'short', timeZone: 'UTC' });
const untilText = (iso: string): string => `${UNTIL.format(new Date(iso))} UTC`;
