import { many } from '../grammar';

export const say = {
  theDriveWasNotRead: 'the drive was not read yet',
  fromTheDriveNewer: ({ differing, newer }: { differing: number; newer: null | string }) =>
    `${many(differing, 'setting differs', 'settings differ')} from the drive, ${newer} newer`,
  draftAndDriveAgree: 'draft and drive agree',
};
