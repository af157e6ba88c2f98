import type { Language } from './languages'

/** What a new form says to visitors until its owner rewrites it: whole sentences that could go live. */
export interface StartTexts {
  heading: string
  introduction: string
  example: string
  button: string
  small: string
}

/** Written from memory by its authors, not yet read by a native reader of each. */
const inLanguage: Record<Language, StartTexts> = {
  en: {
    heading: 'Hear from us',
    introduction: 'Leave your address and we will write when there is something worth telling.',
    example: 'Email you really read',
    button: 'Sign up',
    small: 'No spam. Every message says how to leave.',
  },
  de: {
    heading: 'Post von uns',
    introduction: 'Hinterlassen Sie Ihre Adresse, und wir schreiben, wenn es etwas zu erzählen gibt.',
    example: 'Ihre gelesene Adresse',
    button: 'Anmelden',
    small: 'Kein Spam. In jeder Nachricht steht, wie man sich abmeldet.',
  },
  fr: {
    heading: 'Des nouvelles de nous',
    introduction: 'Laissez votre adresse et nous vous écrirons quand il y aura quelque chose à raconter.',
    example: 'Celle que vous lisez',
    button: 'S’inscrire',
    small: 'Pas de spam. Chaque message dit comment se désinscrire.',
  },
  es: {
    heading: 'Noticias nuestras',
    introduction: 'Deje su dirección y le escribiremos cuando haya algo que contar.',
    example: 'La que de verdad lee',
    button: 'Apuntarme',
    small: 'Sin spam. Cada mensaje dice cómo darse de baja.',
  },
  pt: {
    heading: 'Notícias nossas',
    introduction: 'Deixe o seu endereço e escrevemos quando houver algo para contar.',
    example: 'O que lê mesmo',
    button: 'Inscrever-me',
    small: 'Sem spam. Cada mensagem diz como sair.',
  },
  it: {
    heading: 'Le nostre notizie',
    introduction: 'Lascia il tuo indirizzo e ti scriveremo quando ci sarà qualcosa da raccontare.',
    example: 'Quello che leggi',
    button: 'Iscrivimi',
    small: 'Niente spam. Ogni messaggio dice come disiscriversi.',
  },
  nl: {
    heading: 'Nieuws van ons',
    introduction: 'Laat je adres achter en we schrijven als er iets te vertellen is.',
    example: 'Adres dat je leest',
    button: 'Aanmelden',
    small: 'Geen spam. In elk bericht staat hoe je je afmeldt.',
  },
  pl: {
    heading: 'Wieści od nas',
    introduction: 'Zostaw adres, a napiszemy, gdy będzie o czym opowiedzieć.',
    example: 'Adres, który czytasz',
    button: 'Zapisz mnie',
    small: 'Żadnego spamu. W każdej wiadomości jest napisane, jak się wypisać.',
  },
  ja: {
    heading: 'お便りをお届けします',
    introduction: 'アドレスをご登録いただければ、お伝えしたいことがあるときにお便りします。',
    example: 'ふだんのアドレス',
    button: '登録する',
    small: '迷惑メールは送りません。どのメールにも解除の方法を書いています。',
  },
  ar: {
    heading: 'أخبارنا إليك',
    introduction: 'اترك عنوانك وسنكتب إليك عندما يكون لدينا ما يستحق أن يُروى.',
    example: 'العنوان الذي تقرؤه',
    button: 'اشترك',
    small: 'لا رسائل مزعجة. كل رسالة تذكر كيف تلغي الاشتراك.',
  },
}

export function startTextsOf(language: Language): StartTexts {
  return inLanguage[language]
}
