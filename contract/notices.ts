import { NOTICE_KINDS, type NoticeKind } from '@frustum/core';
import { object, string, type InferType } from 'yup';
import { moment, words } from './fields.ts';

const kind = () => string<NoticeKind>().oneOf(NOTICE_KINDS, `One of ${NOTICE_KINDS.join(', ')}.`).required('Say what was noticed.'); // prettier-ignore

/** Something that somebody noticed at a loop. */
export const noticeSchema = object({
  kind: kind(),
  note: words(500).default(''),
  /** when, if not just now */
  at: moment('Give day and time.').optional(),
}).noUnknown();
export type NewNotice = InferType<typeof noticeSchema>;

/** A notice to take back. */
export const takeBackNoticeSchema = object({ at: moment('Give day and time.').required(), kind: kind() }).noUnknown();
export type TakeBackNotice = InferType<typeof takeBackNoticeSchema>;

export interface NoticeRow {
  readonly at: string;
  readonly kind: NoticeKind;
  readonly note: string;
  readonly by: string;
  /** written down within the last day: it can be taken back */
  readonly fresh: boolean;
}
