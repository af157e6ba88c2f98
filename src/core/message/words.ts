import type { Language } from '#core/texts'
import type { MessageKind } from '#core/mail'

export interface MessageWords {
  subject: string
  text: string
  button: string
  below: string
}

/** What messages say until their owner rewrites them, and the small print that each of them carries. */
export interface MailWords extends Record<MessageKind, MessageWords> {
  /** The link below each message. */
  leave: string
  /** `{gift}` is what the gift is called. */
  gift: string
}

/**
 * Written from memory by its authors, not yet read by a native reader of each. After the greeting, the line begins small
 * where the language writes it so after a comma: German, Italian, Polish; common practice, no published source.
 */
const inLanguage: Record<Language, MailWords> = {
  en: {
    confirmation: {
      subject: 'Please confirm: {list}',
      text: 'Hello {first-name|there},\n\nSomebody, we hope you, gave this address for “{list}”. One press and you are on the list.',
      button: 'Yes, write to me',
      below:
        'If that was not you, do nothing: without the press nobody writes to you again, and the address is deleted after {days} days.',
    },
    welcome: {
      subject: 'Welcome to {list}',
      text: 'Hello {first-name|there},\n\nThank you for joining “{list}”. From now on you hear from us.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'You are on the list already: {list}',
      text: 'Hello {first-name|there},\n\nSomebody gave this address for “{list}” again. It is on the list already, so there is nothing left to do.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Still waiting for your press: {list}',
      text: 'Hello {first-name|there},\n\nYou are not on “{list}” yet: it takes one press. After that we leave you in peace about it.',
      button: 'Yes, write to me',
      below: '',
    },
    leaving: {
      subject: 'You have left {list}',
      text: 'This address was taken off “{list}”. You get no more of its messages.',
      button: 'Put me back on the list',
      below:
        'If you left on purpose, there is nothing to do. If somebody else pressed the link in a message that you passed on, one press brings you back.',
    },
    leave: 'Leave the list',
    gift: 'Here it is: {gift}',
  },
  de: {
    confirmation: {
      subject: 'Bitte bestätigen: {list}',
      text: 'Guten Tag {first-name|},\n\njemand, hoffentlich Sie selbst, hat diese Adresse für „{list}“ angegeben. Ein Klick, und Sie stehen auf der Liste.',
      button: 'Ja, schreiben Sie mir',
      below:
        'Wenn Sie das nicht waren, tun Sie nichts: ohne den Klick schreibt Ihnen niemand mehr, und die Adresse wird nach {days} Tagen gelöscht.',
    },
    welcome: {
      subject: 'Willkommen bei {list}',
      text: 'Guten Tag {first-name|},\n\ndanke für die Anmeldung bei „{list}“. Von jetzt an hören Sie von uns.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Sie stehen schon auf der Liste: {list}',
      text: 'Guten Tag {first-name|},\n\njemand hat diese Adresse noch einmal für „{list}“ angegeben. Sie steht schon auf der Liste, es bleibt also nichts zu tun.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Es fehlt noch Ihr Klick: {list}',
      text: 'Guten Tag {first-name|},\n\nSie stehen noch nicht auf „{list}“: ein Klick fehlt. Danach lassen wir Sie damit in Ruhe.',
      button: 'Ja, schreiben Sie mir',
      below: '',
    },
    leaving: {
      subject: 'Sie sind abgemeldet: {list}',
      text: 'Diese Adresse wurde von „{list}“ genommen. Sie bekommen keine Nachrichten mehr.',
      button: 'Wieder auf die Liste',
      below:
        'Wenn das Ihre Absicht war, ist nichts zu tun. Hat jemand anders in einer weitergeleiteten Nachricht geklickt, bringt ein Klick Sie zurück.',
    },
    leave: 'Abmelden',
    gift: 'Hier ist es: {gift}',
  },
  fr: {
    confirmation: {
      subject: 'Merci de confirmer : {list}',
      text: 'Bonjour {first-name|},\n\nQuelqu’un, vous-même nous l’espérons, a donné cette adresse pour « {list} ». Un clic et vous êtes sur la liste.',
      button: 'Oui, écrivez-moi',
      below:
        'Si ce n’était pas vous, ne faites rien : sans ce clic, plus personne ne vous écrira, et l’adresse sera effacée après {days} jours.',
    },
    welcome: {
      subject: 'Bienvenue : {list}',
      text: 'Bonjour {first-name|},\n\nMerci de votre inscription à « {list} ». Vous aurez désormais de nos nouvelles.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Vous êtes déjà sur la liste : {list}',
      text: 'Bonjour {first-name|},\n\nQuelqu’un a donné de nouveau cette adresse pour « {list} ». Elle est déjà sur la liste, il n’y a donc rien à faire.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Il manque votre clic : {list}',
      text: 'Bonjour {first-name|},\n\nVous n’êtes pas encore sur « {list} » : il manque un clic. Ensuite nous ne vous le rappellerons plus.',
      button: 'Oui, écrivez-moi',
      below: '',
    },
    leaving: {
      subject: 'Vous avez quitté {list}',
      text: 'Cette adresse a été retirée de « {list} ». Vous n’en recevrez plus de messages.',
      button: 'Me remettre sur la liste',
      below:
        'Si c’était voulu, il n’y a rien à faire. Si quelqu’un d’autre a cliqué dans un message que vous aviez transmis, un clic vous ramène.',
    },
    leave: 'Quitter la liste',
    gift: 'Le voici : {gift}',
  },
  es: {
    confirmation: {
      subject: 'Confirme, por favor: {list}',
      text: 'Hola {first-name|}:\n\nAlguien, esperamos que usted, dio esta dirección para «{list}». Un clic y estará en la lista.',
      button: 'Sí, escríbanme',
      below:
        'Si no fue usted, no haga nada: sin ese clic nadie volverá a escribirle y la dirección se borra a los {days} días.',
    },
    welcome: {
      subject: 'Le damos la bienvenida: {list}',
      text: 'Hola {first-name|}:\n\nGracias por apuntarse a «{list}». A partir de ahora tendrá noticias nuestras.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Ya estaba en la lista: {list}',
      text: 'Hola {first-name|}:\n\nAlguien volvió a dar esta dirección para «{list}». Ya está en la lista, así que no queda nada por hacer.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Falta su clic: {list}',
      text: 'Hola {first-name|}:\n\nTodavía no está en «{list}»: falta un clic. Después no se lo recordaremos más.',
      button: 'Sí, escríbanme',
      below: '',
    },
    leaving: {
      subject: 'Se ha dado de baja de {list}',
      text: 'Esta dirección se ha quitado de «{list}». No recibirá más mensajes.',
      button: 'Volver a la lista',
      below:
        'Si era su intención, no hay nada que hacer. Si otra persona pulsó en un mensaje que usted reenvió, un clic le devuelve a la lista.',
    },
    leave: 'Darse de baja',
    gift: 'Aquí está: {gift}',
  },
  pt: {
    confirmation: {
      subject: 'Confirme, por favor: {list}',
      text: 'Olá {first-name|},\n\nAlguém, esperamos que você, deu este endereço para «{list}». Um clique e está na lista.',
      button: 'Sim, escrevam-me',
      below:
        'Se não foi você, não faça nada: sem o clique ninguém volta a escrever-lhe, e o endereço é apagado ao fim de {days} dias.',
    },
    welcome: {
      subject: 'Boas-vindas: {list}',
      text: 'Olá {first-name|},\n\nObrigado por se inscrever em «{list}». A partir de agora terá notícias nossas.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Já estava na lista: {list}',
      text: 'Olá {first-name|},\n\nAlguém voltou a dar este endereço para «{list}». Já está na lista, por isso não falta fazer nada.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Falta o seu clique: {list}',
      text: 'Olá {first-name|},\n\nAinda não está em «{list}»: falta um clique. Depois não voltamos a lembrar.',
      button: 'Sim, escrevam-me',
      below: '',
    },
    leaving: {
      subject: 'Saiu de {list}',
      text: 'Este endereço foi retirado de «{list}». Não recebe mais mensagens.',
      button: 'Voltar à lista',
      below:
        'Se era essa a intenção, não há nada a fazer. Se outra pessoa clicou numa mensagem que reencaminhou, um clique traz-lhe o lugar de volta.',
    },
    leave: 'Sair da lista',
    gift: 'Aqui está: {gift}',
  },
  it: {
    confirmation: {
      subject: 'Conferma, per favore: {list}',
      text: 'Ciao {first-name|},\n\nqualcuno, speriamo tu, ha dato questo indirizzo per «{list}». Un clic e sei nella lista.',
      button: 'Sì, scrivetemi',
      below:
        'Se non eri tu, non fare nulla: senza il clic nessuno ti scriverà più, e l’indirizzo viene cancellato dopo {days} giorni.',
    },
    welcome: {
      subject: 'Benvenuto: {list}',
      text: 'Ciao {first-name|},\n\ngrazie per esserti iscritto a «{list}». D’ora in poi avrai nostre notizie.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Sei già nella lista: {list}',
      text: 'Ciao {first-name|},\n\nqualcuno ha dato di nuovo questo indirizzo per «{list}». È già nella lista, quindi non resta nulla da fare.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Manca il tuo clic: {list}',
      text: 'Ciao {first-name|},\n\nnon sei ancora in «{list}»: manca un clic. Poi non te lo ricorderemo più.',
      button: 'Sì, scrivetemi',
      below: '',
    },
    leaving: {
      subject: 'Hai lasciato {list}',
      text: 'Questo indirizzo è stato tolto da «{list}». Non riceverai più messaggi.',
      button: 'Rimettimi nella lista',
      below:
        'Se era voluto, non c’è nulla da fare. Se qualcun altro ha cliccato in un messaggio che hai inoltrato, un clic ti riporta nella lista.',
    },
    leave: 'Lascia la lista',
    gift: 'Eccolo: {gift}',
  },
  nl: {
    confirmation: {
      subject: 'Graag bevestigen: {list}',
      text: 'Hallo {first-name|},\n\nIemand, hopelijk jijzelf, gaf dit adres op voor “{list}”. Eén klik en je staat op de lijst.',
      button: 'Ja, schrijf me',
      below:
        'Was jij dat niet, doe dan niets: zonder die klik schrijft niemand je nog, en het adres wordt na {days} dagen gewist.',
    },
    welcome: {
      subject: 'Welkom bij {list}',
      text: 'Hallo {first-name|},\n\nBedankt voor je aanmelding bij “{list}”. Vanaf nu hoor je van ons.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Je staat al op de lijst: {list}',
      text: 'Hallo {first-name|},\n\nIemand gaf dit adres nog eens op voor “{list}”. Het staat al op de lijst, dus er is niets meer te doen.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Je klik ontbreekt nog: {list}',
      text: 'Hallo {first-name|},\n\nJe staat nog niet op “{list}”: er ontbreekt één klik. Daarna herinneren we je er niet meer aan.',
      button: 'Ja, schrijf me',
      below: '',
    },
    leaving: {
      subject: 'Je hebt {list} verlaten',
      text: 'Dit adres is van “{list}” gehaald. Je krijgt geen berichten meer.',
      button: 'Zet me terug op de lijst',
      below:
        'Was dat de bedoeling, dan hoef je niets te doen. Klikte iemand anders in een bericht dat je doorstuurde, dan brengt één klik je terug.',
    },
    leave: 'Afmelden',
    gift: 'Hier is het: {gift}',
  },
  pl: {
    confirmation: {
      subject: 'Prosimy o potwierdzenie: {list}',
      text: 'Dzień dobry {first-name|},\n\nktoś, mamy nadzieję, że Ty, podał ten adres na listę „{list}”. Jedno kliknięcie i jesteś na liście.',
      button: 'Tak, piszcie do mnie',
      below:
        'Jeśli to nie Ty, nie rób nic: bez kliknięcia nikt więcej nie napisze, a adres zostanie usunięty po {days} dniach.',
    },
    welcome: {
      subject: 'Witamy: {list}',
      text: 'Dzień dobry {first-name|},\n\ndziękujemy za zapisanie się na „{list}”. Od teraz będziemy pisać.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Ten adres już jest na liście: {list}',
      text: 'Dzień dobry {first-name|},\n\nktoś ponownie podał ten adres na listę „{list}”. Adres już na niej jest, więc nie trzeba nic robić.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Brakuje jednego kliknięcia: {list}',
      text: 'Dzień dobry {first-name|},\n\ntego adresu nie ma jeszcze na „{list}”: brakuje jednego kliknięcia. Potem nie będziemy już przypominać.',
      button: 'Tak, piszcie do mnie',
      below: '',
    },
    leaving: {
      subject: 'Adres wypisany z {list}',
      text: 'Ten adres został usunięty z „{list}”. Nie będzie więcej wiadomości.',
      button: 'Wróć na listę',
      below:
        'Jeśli tak miało być, nie trzeba nic robić. Jeśli ktoś inny kliknął w przekazanej wiadomości, jedno kliknięcie przywraca adres.',
    },
    leave: 'Wypisz się',
    gift: 'Oto on: {gift}',
  },
  ja: {
    confirmation: {
      subject: 'ご確認ください：{list}',
      text: '{first-name|}こんにちは。\n\nこのアドレスが「{list}」に登録されました。ボタンを押すと登録が完了します。',
      button: 'はい、登録します',
      below: 'お心当たりがない場合は、何もなさらないでください。{days}日後にアドレスは削除されます。',
    },
    welcome: {
      subject: '{list}へようこそ',
      text: '{first-name|}こんにちは。\n\n「{list}」にご登録いただき、ありがとうございます。',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'すでに登録されています：{list}',
      text: '{first-name|}こんにちは。\n\nこのアドレスが「{list}」に再び入力されました。すでに登録済みですので、何もする必要はありません。',
      button: '',
      below: '',
    },
    reminder: {
      subject: '登録がまだ完了していません：{list}',
      text: '{first-name|}こんにちは。\n\n「{list}」への登録はまだ完了していません。ボタンを押すと完了します。',
      button: 'はい、登録します',
      below: '',
    },
    leaving: {
      subject: '{list}の登録を解除しました',
      text: 'このアドレスは「{list}」から外されました。今後メールは届きません。',
      button: 'もう一度登録する',
      below: 'ご自身で解除された場合は、何もする必要はありません。ほかの方が押した場合は、ボタンで元に戻せます。',
    },
    leave: '登録を解除する',
    gift: 'こちらです：{gift}',
  },
  ar: {
    confirmation: {
      subject: 'يرجى التأكيد: {list}',
      text: 'مرحبًا {first-name|}،\n\nأعطى أحدهم، ونرجو أن تكون أنت، هذا العنوان لقائمة «{list}». ضغطة واحدة وتصبح في القائمة.',
      button: 'نعم، اكتبوا إليّ',
      below: 'إن لم تكن أنت فلا تفعل شيئًا: دون الضغطة لن يكتب إليك أحد، ويُحذف العنوان بعد {days} أيام.',
    },
    welcome: {
      subject: 'أهلًا بك في {list}',
      text: 'مرحبًا {first-name|}،\n\nشكرًا لانضمامك إلى «{list}». ستصلك أخبارنا من الآن.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'أنت في القائمة من قبل: {list}',
      text: 'مرحبًا {first-name|}،\n\nأعطى أحدهم هذا العنوان لقائمة «{list}» مرة أخرى. هو في القائمة، فلا يلزم فعل أي شيء.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'تنقص ضغطة واحدة: {list}',
      text: 'مرحبًا {first-name|}،\n\nلست في «{list}» بعد: تنقص ضغطة واحدة. وبعدها لن نذكّرك.',
      button: 'نعم، اكتبوا إليّ',
      below: '',
    },
    leaving: {
      subject: 'غادرت {list}',
      text: 'أزيل هذا العنوان من «{list}». لن تصلك رسائلها بعد الآن.',
      button: 'أعيدوني إلى القائمة',
      below: 'إن كان ذلك قصدك فلا يلزم شيء. وإن ضغط غيرك في رسالة أعدت توجيهها فضغطة واحدة تعيدك.',
    },
    leave: 'مغادرة القائمة',
    gift: 'تفضل: {gift}',
  },
}

export function messageWordsOf(language: Language): MailWords {
  return inLanguage[language]
}
