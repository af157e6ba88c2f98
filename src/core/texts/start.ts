import type { Language } from './languages'

/** What a new form says to visitors until its owner rewrites it: whole sentences that could go live. */
export interface StartTexts {
  introduction: string
  example: string
  button: string
  small: string
  joined: { heading: string; message: string }
  alreadyOnList: { heading: string; message: string }
}

/** Written from memory by its authors, not yet read by a native reader of each. */
const inLanguage: Record<Language, StartTexts> = {
  en: {
    introduction: 'Leave your address and we will write when there is something worth telling.',
    example: 'Email you really read',
    button: 'Sign up',
    small: 'No spam. Every message says how to leave.',
    joined: { heading: 'You are on the list', message: 'Thank you. You will hear from us.' },
    alreadyOnList: {
      heading: 'You are already on the list',
      message: 'This address is on the list, so there is nothing left to do.',
    },
  },
  de: {
    introduction: 'Hinterlassen Sie Ihre Adresse, und wir schreiben, wenn es etwas zu erzählen gibt.',
    example: 'Ihre gelesene Adresse',
    button: 'Anmelden',
    small: 'Kein Spam. In jeder Nachricht steht, wie man sich abmeldet.',
    joined: { heading: 'Sie stehen auf der Liste', message: 'Danke. Sie hören von uns.' },
    alreadyOnList: {
      heading: 'Sie stehen schon auf der Liste',
      message: 'Diese Adresse ist auf der Liste, es bleibt also nichts zu tun.',
    },
  },
  fr: {
    introduction: 'Laissez votre adresse et nous vous écrirons quand il y aura quelque chose à raconter.',
    example: 'Celle que vous lisez',
    button: 'S’inscrire',
    small: 'Pas de spam. Chaque message dit comment se désinscrire.',
    joined: { heading: 'Vous êtes sur la liste', message: 'Merci. Vous aurez de nos nouvelles.' },
    alreadyOnList: {
      heading: 'Vous êtes déjà sur la liste',
      message: 'Cette adresse est sur la liste, il n’y a donc plus rien à faire.',
    },
  },
  es: {
    introduction: 'Deje su dirección y le escribiremos cuando haya algo que contar.',
    example: 'La que de verdad lee',
    button: 'Apuntarme',
    small: 'Sin spam. Cada mensaje dice cómo darse de baja.',
    joined: { heading: 'Está en la lista', message: 'Gracias. Tendrá noticias nuestras.' },
    alreadyOnList: {
      heading: 'Ya estaba en la lista',
      message: 'Esta dirección está en la lista, así que no queda nada por hacer.',
    },
  },
  pt: {
    introduction: 'Deixe o seu endereço e escrevemos quando houver algo para contar.',
    example: 'O que lê mesmo',
    button: 'Inscrever-me',
    small: 'Sem spam. Cada mensagem diz como sair.',
    joined: { heading: 'Está na lista', message: 'Obrigado. Terá notícias nossas.' },
    alreadyOnList: {
      heading: 'Já estava na lista',
      message: 'Este endereço está na lista, por isso não falta fazer nada.',
    },
  },
  it: {
    introduction: 'Lascia il tuo indirizzo e ti scriveremo quando ci sarà qualcosa da raccontare.',
    example: 'Quello che leggi',
    button: 'Iscrivimi',
    small: 'Niente spam. Ogni messaggio dice come disiscriversi.',
    joined: { heading: 'Sei nella lista', message: 'Grazie. Avrai nostre notizie.' },
    alreadyOnList: {
      heading: 'Sei già nella lista',
      message: 'Questo indirizzo è nella lista, quindi non resta nulla da fare.',
    },
  },
  nl: {
    introduction: 'Laat je adres achter en we schrijven als er iets te vertellen is.',
    example: 'Adres dat je leest',
    button: 'Aanmelden',
    small: 'Geen spam. In elk bericht staat hoe je je afmeldt.',
    joined: { heading: 'Je staat op de lijst', message: 'Bedankt. Je hoort van ons.' },
    alreadyOnList: {
      heading: 'Je staat al op de lijst',
      message: 'Dit adres staat op de lijst, dus er is niets meer te doen.',
    },
  },
  pl: {
    introduction: 'Zostaw adres, a napiszemy, gdy będzie o czym opowiedzieć.',
    example: 'Adres, który czytasz',
    button: 'Zapisz mnie',
    small: 'Żadnego spamu. W każdej wiadomości jest napisane, jak się wypisać.',
    joined: { heading: 'Jesteś na liście', message: 'Dziękujemy. Odezwiemy się.' },
    alreadyOnList: {
      heading: 'Jesteś już na liście',
      message: 'Ten adres jest na liście, więc nie trzeba nic więcej robić.',
    },
  },
  ja: {
    introduction: 'アドレスをご登録いただければ、お伝えしたいことがあるときにお便りします。',
    example: 'ふだんのアドレス',
    button: '登録する',
    small: '迷惑メールは送りません。どのメールにも解除の方法を書いています。',
    joined: { heading: '登録されました', message: 'ありがとうございます。お便りをお待ちください。' },
    alreadyOnList: {
      heading: 'すでに登録されています',
      message: 'このアドレスは登録済みですので、何もする必要はありません。',
    },
  },
  ar: {
    introduction: 'اترك عنوانك وسنكتب إليك عندما يكون لدينا ما يستحق أن يُروى.',
    example: 'العنوان الذي تقرؤه',
    button: 'اشترك',
    small: 'لا رسائل مزعجة. كل رسالة تذكر كيف تلغي الاشتراك.',
    joined: { heading: 'أنت في القائمة', message: 'شكرًا لك. ستصلك أخبارنا.' },
    alreadyOnList: { heading: 'أنت في القائمة من قبل', message: 'هذا العنوان في القائمة، فلا يلزم فعل أي شيء.' },
  },
}

export function startTextsOf(language: Language): StartTexts {
  return inLanguage[language]
}
