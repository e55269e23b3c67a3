/** Mails about accounts, in the language of whoever asks for them. */
import { createParamDecorator, type ExecutionContext } from '@nestjs/common';
import type { Request } from 'express';
import type { LinkPurpose } from './entities.js';

/** The languages of the workbench (BCP 47). */
const LANGUAGES = ['en', 'de', 'fr', 'es'] as const;
export type LetterLanguage = (typeof LANGUAGES)[number];

/** Who invites, and to what. */
export interface Names {
  by: string;
  workspace: string;
}
interface Letter {
  subject: string;
  /** What stands above the link. */
  above: string;
}
interface Words {
  letters: Readonly<Record<LinkPurpose, (n: Names) => Letter>>;
  /** What stands for somebody, and for a workspace, whose name is not known. */
  nameless: Names;
  /** What stands below the link. */
  below: string;
}

const WORDS: Readonly<Record<LetterLanguage, Words>> = {
  en: {
    letters: {
      'sign-up': () => ({
        subject: 'Your account at Zakuska',
        above: 'Somebody, probably you, wants to make an account at Zakuska with this address. Go on here, within a day:',
      }),
      reset: () => ({
        subject: 'A new password for Zakuska',
        above: 'Somebody, probably you, has forgotten the password of your account at Zakuska. Make a new one here, within two hours:',
      }),
      address: () => ({
        subject: 'Confirm your address',
        above: 'This address was given for an account at Zakuska. Confirm here, within a day, that it is yours:',
      }),
      invitation: ({ by, workspace }) => ({
        subject: `Invitation to ${workspace}`,
        above: `${by} invites you to “${workspace}” at Zakuska, where its quizzes are made. Come in here, within two weeks:`,
      }),
    },
    nameless: { by: 'Somebody', workspace: 'a workspace' },
    below: 'If you do not know what this is about, do nothing.',
  },
  de: {
    letters: {
      'sign-up': () => ({
        subject: 'Ihr Konto bei Zakuska',
        above: 'Jemand, vermutlich Sie, möchte mit dieser Adresse ein Konto bei Zakuska anlegen. Machen Sie innerhalb eines Tages hier weiter:',
      }),
      reset: () => ({
        subject: 'Ein neues Passwort für Zakuska',
        above: 'Jemand, vermutlich Sie, hat das Passwort Ihres Kontos bei Zakuska vergessen. Legen Sie innerhalb von zwei Stunden hier ein neues fest:',
      }),
      address: () => ({
        subject: 'Bestätigen Sie Ihre Adresse',
        above: 'Diese Adresse wurde für ein Konto bei Zakuska angegeben. Bestätigen Sie innerhalb eines Tages hier, dass sie Ihnen gehört:',
      }),
      invitation: ({ by, workspace }) => ({
        subject: `Einladung: ${workspace}`,
        above: `${by} lädt Sie ein in „${workspace}“ bei Zakuska, wo die Tests entstehen. Kommen Sie innerhalb von zwei Wochen hier herein:`,
      }),
    },
    nameless: { by: 'Jemand', workspace: 'ein Arbeitsbereich' },
    below: 'Wenn Sie nicht wissen, worum es geht, tun Sie nichts.',
  },
  fr: {
    letters: {
      'sign-up': () => ({
        subject: 'Votre compte chez Zakuska',
        above: 'Quelqu’un, sans doute vous, veut créer un compte chez Zakuska avec cette adresse. Continuez ici dans la journée :',
      }),
      reset: () => ({
        subject: 'Un nouveau mot de passe pour Zakuska',
        above: 'Quelqu’un, sans doute vous, a oublié le mot de passe de votre compte chez Zakuska. Choisissez-en un nouveau ici dans les deux heures :',
      }),
      address: () => ({
        subject: 'Confirmez votre adresse',
        above: 'Cette adresse a été indiquée pour un compte chez Zakuska. Confirmez ici dans la journée qu’elle est à vous :',
      }),
      invitation: ({ by, workspace }) => ({
        subject: `Invitation : ${workspace}`,
        above: `${by} vous invite dans « ${workspace} » chez Zakuska, où se préparent les quiz. Entrez ici dans les deux semaines :`,
      }),
    },
    nameless: { by: 'Quelqu’un', workspace: 'un espace de travail' },
    below: 'Si vous ne savez pas de quoi il s’agit, ne faites rien.',
  },
  es: {
    letters: {
      'sign-up': () => ({
        subject: 'Su cuenta en Zakuska',
        above: 'Alguien, probablemente usted, quiere crear una cuenta en Zakuska con esta dirección. Siga aquí en el plazo de un día:',
      }),
      reset: () => ({
        subject: 'Una contraseña nueva para Zakuska',
        above: 'Alguien, probablemente usted, ha olvidado la contraseña de su cuenta en Zakuska. Elija otra aquí en el plazo de dos horas:',
      }),
      address: () => ({
        subject: 'Confirme su dirección',
        above: 'Se ha indicado esta dirección para una cuenta en Zakuska. Confirme aquí en el plazo de un día que es suya:',
      }),
      invitation: ({ by, workspace }) => ({
        subject: `Invitación: ${workspace}`,
        above: `${by} le invita a «${workspace}» en Zakuska, donde se preparan los cuestionarios. Entre aquí en el plazo de dos semanas:`,
      }),
    },
    nameless: { by: 'Alguien', workspace: 'un espacio de trabajo' },
    below: 'Si no sabe de qué se trata, no haga nada.',
  },
};

/** The mail with a link. @param names what is not known is paraphrased */
export function linkLetter(
  purpose: LinkPurpose,
  link: string,
  names: { [K in keyof Names]?: string | undefined },
  language: LetterLanguage,
): { subject: string; text: string } {
  const { letters, nameless, below } = WORDS[language];
  const { subject, above } = letters[purpose]({ by: names.by || nameless.by, workspace: names.workspace || nameless.workspace });
  return { subject, text: `${above}\n\n${link}\n\n${below}\n` };
}

/** The language in which something is asked for, of those that letters are written in: the workbench says which it speaks (RFC 9110, 12.5.4). */
export const AskedIn = createParamDecorator(
  (_: unknown, context: ExecutionContext): LetterLanguage =>
    (context
      .switchToHttp()
      .getRequest<Request>()
      .acceptsLanguages([...LANGUAGES]) || 'en') as LetterLanguage,
);
