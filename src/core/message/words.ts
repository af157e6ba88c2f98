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
  /** The link to a letter's web copy. */
  webCopy: string
  /** Said where presses of links are counted. */
  countsLinks: string
  /** The link from a post's beginning to all of it. */
  readOn: string
}

/**
 * Written from memory by its authors, not yet read by a native reader of each. After the greeting, the line begins small
 * where the language writes it so after a comma: German, Italian, Polish; common practice, no published source.
 */
const inLanguage: Record<Language, MailWords> = {
  en: {
    confirmation: {
      subject: 'Please confirm: {list}',
      text: 'Hello {first-name|there},\n\nThank you for asking for “{list}”. Please confirm that this is your address: the button opens a page, and one press there puts you on the list.',
      button: 'Confirm my address',
      below:
        'If you did not ask for this, just leave this mail: you are not put on the list, and the address is deleted after {days} days.',
    },
    welcome: {
      subject: 'Welcome to {list}',
      text: 'Hello {first-name|there},\n\nThank you for joining “{list}”. From now on you hear from us.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'You are on the list already: {list}',
      text: 'Hello {first-name|there},\n\nThis address was given for “{list}” once more. It is on the list already, so there is nothing left to do.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Still waiting for your press: {list}',
      text: 'Hello {first-name|there},\n\nYou asked for “{list}”, and your address is not confirmed yet. The button opens a page, and one press there puts you on the list. This is our only reminder.',
      button: 'Confirm my address',
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
    webCopy: 'See this letter in the browser',
    countsLinks: 'Presses of the links in this letter are counted, without names.',
    readOn: 'Read on',
  },
  de: {
    confirmation: {
      subject: 'Bitte bestätigen: {list}',
      text: 'Guten Tag {first-name|},\n\nvielen Dank für Ihre Anmeldung zu „{list}“. Bitte bestätigen Sie, dass dies Ihre Adresse ist: Die Schaltfläche öffnet eine Seite, und ein Klick dort setzt Sie auf die Liste.',
      button: 'Adresse bestätigen',
      below:
        'Wenn Sie sich nicht angemeldet haben, lassen Sie diese Mail einfach liegen: Sie kommen nicht auf die Liste, und die Adresse wird nach {days} Tagen gelöscht.',
    },
    welcome: {
      subject: 'Willkommen bei {list}',
      text: 'Guten Tag {first-name|},\n\ndanke für die Anmeldung bei „{list}“. Von jetzt an hören Sie von uns.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Sie stehen schon auf der Liste: {list}',
      text: 'Guten Tag {first-name|},\n\ndiese Adresse wurde noch einmal für „{list}“ angegeben. Sie steht schon auf der Liste, es bleibt also nichts zu tun.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Es fehlt noch Ihr Klick: {list}',
      text: 'Guten Tag {first-name|},\n\nSie haben sich zu „{list}“ angemeldet, Ihre Adresse ist aber noch nicht bestätigt. Die Schaltfläche öffnet eine Seite, und ein Klick dort setzt Sie auf die Liste. Dies bleibt unsere einzige Erinnerung.',
      button: 'Adresse bestätigen',
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
    webCopy: 'Diesen Brief im Browser ansehen',
    countsLinks: 'Klicks auf Links in diesem Brief werden gezählt, ohne Namen.',
    readOn: 'Weiterlesen',
  },
  fr: {
    confirmation: {
      subject: 'Merci de confirmer : {list}',
      text: 'Bonjour {first-name|},\n\nMerci de votre inscription à « {list} ». Confirmez, s’il vous plaît, que cette adresse est la vôtre : le bouton ouvre une page, et un clic sur cette page vous met sur la liste.',
      button: 'Confirmer mon adresse',
      below:
        'Si vous n’avez rien demandé, laissez simplement ce message : vous n’êtes pas mis sur la liste, et l’adresse sera effacée après {days} jours.',
    },
    welcome: {
      subject: 'Bienvenue : {list}',
      text: 'Bonjour {first-name|},\n\nMerci de votre inscription à « {list} ». Vous aurez désormais de nos nouvelles.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Vous êtes déjà sur la liste : {list}',
      text: 'Bonjour {first-name|},\n\nCette adresse a été donnée encore une fois pour « {list} ». Elle est déjà sur la liste, il n’y a donc rien à faire.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Il manque votre clic : {list}',
      text: 'Bonjour {first-name|},\n\nVous vous êtes inscrit à « {list} », mais votre adresse n’est pas encore confirmée. Le bouton ouvre une page, et un clic sur cette page vous met sur la liste. Ceci est notre seul rappel.',
      button: 'Confirmer mon adresse',
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
    webCopy: 'Voir cette lettre dans le navigateur',
    countsLinks: 'Les clics sur les liens de cette lettre sont comptés, sans noms.',
    readOn: 'Lire la suite',
  },
  es: {
    confirmation: {
      subject: 'Confirme, por favor: {list}',
      text: 'Hola {first-name|}:\n\nGracias por apuntarse a «{list}». Confirme, por favor, que esta dirección es suya: el botón abre una página y, con un clic en ella, estará en la lista.',
      button: 'Confirmar mi dirección',
      below:
        'Si no lo pidió, deje este mensaje sin más: no entra en la lista y la dirección se borra a los {days} días.',
    },
    welcome: {
      subject: 'Le damos la bienvenida: {list}',
      text: 'Hola {first-name|}:\n\nGracias por apuntarse a «{list}». A partir de ahora tendrá noticias nuestras.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Ya estaba en la lista: {list}',
      text: 'Hola {first-name|}:\n\nEsta dirección se dio otra vez para «{list}». Ya está en la lista, así que no queda nada por hacer.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Falta su clic: {list}',
      text: 'Hola {first-name|}:\n\nSe apuntó a «{list}», pero su dirección aún no está confirmada. El botón abre una página y, con un clic en ella, estará en la lista. No se lo recordaremos más.',
      button: 'Confirmar mi dirección',
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
    webCopy: 'Ver esta carta en el navegador',
    countsLinks: 'Se cuentan las pulsaciones de los enlaces de esta carta, sin nombres.',
    readOn: 'Seguir leyendo',
  },
  pt: {
    confirmation: {
      subject: 'Confirme, por favor: {list}',
      text: 'Olá {first-name|},\n\nObrigado por se inscrever em «{list}». Confirme, por favor, que este endereço é seu: o botão abre uma página e, com um clique nela, fica na lista.',
      button: 'Confirmar o meu endereço',
      below:
        'Se não pediu nada, deixe simplesmente esta mensagem: não fica na lista, e o endereço é apagado ao fim de {days} dias.',
    },
    welcome: {
      subject: 'Boas-vindas: {list}',
      text: 'Olá {first-name|},\n\nObrigado por se inscrever em «{list}». A partir de agora terá notícias nossas.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Já estava na lista: {list}',
      text: 'Olá {first-name|},\n\nEste endereço foi dado mais uma vez para «{list}». Já está na lista, por isso não falta fazer nada.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Falta o seu clique: {list}',
      text: 'Olá {first-name|},\n\nInscreveu-se em «{list}», mas o seu endereço ainda não está confirmado. O botão abre uma página e, com um clique nela, fica na lista. Não voltamos a lembrar.',
      button: 'Confirmar o meu endereço',
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
    webCopy: 'Ver esta carta no navegador',
    countsLinks: 'Os cliques nas ligações desta carta são contados, sem nomes.',
    readOn: 'Continuar a ler',
  },
  it: {
    confirmation: {
      subject: 'Conferma, per favore: {list}',
      text: 'Ciao {first-name|},\n\ngrazie per esserti iscritto a «{list}». Conferma, per favore, che questo indirizzo è tuo: il pulsante apre una pagina, e un clic lì ti mette nella lista.',
      button: 'Conferma il mio indirizzo',
      below:
        'Se non l’hai chiesto tu, lascia pure questa mail: non entri nella lista, e l’indirizzo viene cancellato dopo {days} giorni.',
    },
    welcome: {
      subject: 'Benvenuto: {list}',
      text: 'Ciao {first-name|},\n\ngrazie per esserti iscritto a «{list}». D’ora in poi avrai nostre notizie.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Sei già nella lista: {list}',
      text: 'Ciao {first-name|},\n\nquesto indirizzo è stato dato ancora una volta per «{list}». È già nella lista, quindi non resta nulla da fare.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Manca il tuo clic: {list}',
      text: 'Ciao {first-name|},\n\nti sei iscritto a «{list}», ma il tuo indirizzo non è ancora confermato. Il pulsante apre una pagina, e un clic lì ti mette nella lista. Non te lo ricorderemo più.',
      button: 'Conferma il mio indirizzo',
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
    webCopy: 'Vedi questa lettera nel browser',
    countsLinks: 'I clic sui link di questa lettera vengono contati, senza nomi.',
    readOn: 'Continua a leggere',
  },
  nl: {
    confirmation: {
      subject: 'Graag bevestigen: {list}',
      text: 'Hallo {first-name|},\n\nBedankt voor je aanmelding bij “{list}”. Bevestig alsjeblieft dat dit jouw adres is: de knop opent een pagina, en één klik daar zet je op de lijst.',
      button: 'Mijn adres bevestigen',
      below:
        'Heb je dit niet gevraagd, laat deze mail dan gewoon liggen: je komt niet op de lijst, en het adres wordt na {days} dagen gewist.',
    },
    welcome: {
      subject: 'Welkom bij {list}',
      text: 'Hallo {first-name|},\n\nBedankt voor je aanmelding bij “{list}”. Vanaf nu hoor je van ons.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Je staat al op de lijst: {list}',
      text: 'Hallo {first-name|},\n\nDit adres werd nog eens opgegeven voor “{list}”. Het staat al op de lijst, dus er is niets meer te doen.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Je klik ontbreekt nog: {list}',
      text: 'Hallo {first-name|},\n\nJe meldde je aan voor “{list}”, maar je adres is nog niet bevestigd. De knop opent een pagina, en één klik daar zet je op de lijst. Dit is onze enige herinnering.',
      button: 'Mijn adres bevestigen',
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
    webCopy: 'Deze brief in de browser bekijken',
    countsLinks: 'Klikken op links in deze brief worden geteld, zonder namen.',
    readOn: 'Lees verder',
  },
  pl: {
    confirmation: {
      subject: 'Prosimy o potwierdzenie: {list}',
      text: 'Dzień dobry {first-name|},\n\ndziękujemy za zapisanie się na „{list}”. Prosimy o potwierdzenie, że to Twój adres: przycisk otwiera stronę, a jedno kliknięcie na niej wpisuje Cię na listę.',
      button: 'Potwierdzam mój adres',
      below:
        'Jeśli to nie Ty, po prostu zostaw tę wiadomość: nie trafisz na listę, a adres zostanie usunięty po {days} dniach.',
    },
    welcome: {
      subject: 'Witamy: {list}',
      text: 'Dzień dobry {first-name|},\n\ndziękujemy za zapisanie się na „{list}”. Od teraz będziemy pisać.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'Ten adres już jest na liście: {list}',
      text: 'Dzień dobry {first-name|},\n\nten adres podano jeszcze raz na listę „{list}”. Adres już na niej jest, więc nie trzeba nic robić.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'Brakuje jednego kliknięcia: {list}',
      text: 'Dzień dobry {first-name|},\n\nzapisano Cię na „{list}”, ale adres nie jest jeszcze potwierdzony. Przycisk otwiera stronę, a jedno kliknięcie na niej wpisuje Cię na listę. To nasze jedyne przypomnienie.',
      button: 'Potwierdzam mój adres',
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
    webCopy: 'Zobacz ten list w przeglądarce',
    countsLinks: 'Kliknięcia odnośników w tym liście są liczone, bez imion.',
    readOn: 'Czytaj dalej',
  },
  ja: {
    confirmation: {
      subject: 'ご確認ください：{list}',
      text: '{first-name|みな}さん、こんにちは。\n\n「{list}」へのお申し込み、ありがとうございます。ご本人のアドレスであることをご確認ください。ボタンで開くページでもう一度押すと、登録が完了します。',
      button: 'アドレスを確認する',
      below: 'お心当たりがない場合は、そのままにしてください。登録はされず、{days}日後にアドレスは削除されます。',
    },
    welcome: {
      subject: '{list}へようこそ',
      text: '{first-name|みな}さん、こんにちは。\n\n「{list}」にご登録いただき、ありがとうございます。',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'すでに登録されています：{list}',
      text: '{first-name|みな}さん、こんにちは。\n\nこのアドレスが「{list}」に再び入力されました。すでに登録済みですので、何もする必要はありません。',
      button: '',
      below: '',
    },
    reminder: {
      subject: '登録がまだ完了していません：{list}',
      text: '{first-name|みな}さん、こんにちは。\n\n「{list}」へのお申し込みは、まだ確認されていません。ボタンで開くページでもう一度押すと、登録が完了します。お知らせはこれが最後です。',
      button: 'アドレスを確認する',
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
    webCopy: 'このお便りをブラウザーで見る',
    countsLinks: 'このお便りのリンクが押された回数を、お名前なしで数えています。',
    readOn: '続きを読む',
  },
  ar: {
    confirmation: {
      subject: 'يرجى التأكيد: {list}',
      text: 'مرحبًا {first-name|}،\n\nشكرًا لاشتراكك في «{list}». نرجو أن تؤكد أن هذا العنوان لك: يفتح الزر صفحة، وضغطة واحدة فيها تضيفك إلى القائمة.',
      button: 'تأكيد عنواني',
      below: 'إن لم تطلب ذلك فاترك هذه الرسالة: لن تُضاف إلى القائمة، ويُحذف العنوان بعد {days} أيام.',
    },
    welcome: {
      subject: 'أهلًا بك في {list}',
      text: 'مرحبًا {first-name|}،\n\nشكرًا لانضمامك إلى «{list}». ستصلك أخبارنا من الآن.',
      button: '',
      below: '',
    },
    'already-there': {
      subject: 'أنت في القائمة من قبل: {list}',
      text: 'مرحبًا {first-name|}،\n\nأُعطي هذا العنوان لقائمة «{list}» مرة أخرى. هو في القائمة من قبل، فلا يلزم فعل أي شيء.',
      button: '',
      below: '',
    },
    reminder: {
      subject: 'تنقص ضغطة واحدة: {list}',
      text: 'مرحبًا {first-name|}،\n\nاشتركت في «{list}» ولم يُؤكَّد عنوانك بعد. يفتح الزر صفحة، وضغطة واحدة فيها تضيفك إلى القائمة. لن نذكّرك مرة أخرى.',
      button: 'تأكيد عنواني',
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
    webCopy: 'اعرض هذه الرسالة في المتصفح',
    countsLinks: 'تُحصى مرات الضغط على الروابط في هذه الرسالة، من دون أسماء.',
    readOn: 'تابع القراءة',
  },
}

export function messageWordsOf(language: Language): MailWords {
  return inLanguage[language]
}
