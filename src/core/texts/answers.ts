import type { Language } from './languages'

interface Said {
  heading: string
  message: string
}

/** What visitors read where mail has a part in it, until the owner says it otherwise, and the words on our pages' buttons. */
export interface AnswerTexts {
  joined: Said
  alreadyOnList: Said
  confirmFirst: Said
  alreadyWaiting: Said
  confirmed: Said
  linkExpired: Said
  left: Said
  notPossible: Said
  /** The page that the confirmation mail leads to. `{list}` is the list. */
  confirmPage: Said
  confirm: string
  /** The page that a leaving link leads to. `{list}` is the list. */
  leavePage: Said
  leave: string
  returned: Said
  comeBack: string
  sendAgain: string
  sentAgain: string
  /** Where the mail was held back, because the inbox or the network had more than its share. */
  mailHeld: string
  sendNow: string
  mailHeldToday: string
  /** A gift's link that has ended, by its days or its downloads, or because the first so many have it. */
  giftOver: Said
  /** On the button of a gift whose link works so many times. */
  takeGift: string
}

/** Written from memory by its authors, not yet read by a native reader of each. */
const inLanguage: Record<Language, AnswerTexts> = {
  en: {
    joined: { heading: 'You are on the list', message: 'Thank you. You will hear from us.' },
    alreadyOnList: {
      heading: 'You are already on the list',
      message: 'This address is on the list, so there is nothing left to do.',
    },
    confirmFirst: {
      heading: 'Look in your inbox',
      message:
        'A mail is on its way, usually within a minute or two. Press the button in it and confirm on the page that opens. If it is not there, look among the spam.',
    },
    alreadyWaiting: {
      heading: 'Still to be confirmed',
      message:
        'This address was given before and waits to be confirmed. Look in your inbox for our mail, and among the spam.',
    },
    confirmed: { heading: 'You are on the list', message: 'Thank you for confirming. You will hear from us.' },
    linkExpired: {
      heading: 'This link is used up',
      message: 'It was pressed before, or it is too old. If you are not on the list yet, sign up once more.',
    },
    left: { heading: 'You have left the list', message: 'You get no more of its messages.' },
    notPossible: {
      heading: 'That did not work',
      message: 'Your sign-up could not be taken at the moment. Please try again in a while.',
    },
    confirmPage: { heading: 'Join “{list}”?', message: 'One press, and you are on the list.' },
    confirm: 'Yes, put me on the list',
    leavePage: { heading: 'Leave “{list}”?', message: 'You will get no more of its messages.' },
    leave: 'Leave the list',
    returned: { heading: 'Welcome back', message: 'You are on the list again.' },
    comeBack: 'Put me back on the list',
    sendAgain: 'Send the mail again',
    sentAgain: 'The mail is on its way once more.',
    mailHeld: 'So much mail was asked for that none went out this time. One press, and one goes to you.',
    sendNow: 'Send me the mail',
    mailHeldToday: 'No more mail goes to this address today. Ask again tomorrow: your sign-up is kept.',
    giftOver: {
      heading: 'The gift is not here any more',
      message:
        'This link has been used as often, or for as long, as its sender allows. Answer the mail that it came with if you need it once more.',
    },
    takeGift: 'Download',
  },
  de: {
    joined: { heading: 'Sie stehen auf der Liste', message: 'Danke. Sie hören von uns.' },
    alreadyOnList: {
      heading: 'Sie stehen schon auf der Liste',
      message: 'Diese Adresse ist auf der Liste, es bleibt also nichts zu tun.',
    },
    confirmFirst: {
      heading: 'Bitte schauen Sie in Ihr Postfach',
      message:
        'Eine Mail ist unterwegs, meist in ein bis zwei Minuten da. Öffnen Sie den Link darin und bestätigen Sie auf der Seite. Fehlt die Mail, schauen Sie im Spam nach.',
    },
    alreadyWaiting: {
      heading: 'Noch zu bestätigen',
      message:
        'Diese Adresse wurde schon angegeben und wartet auf Bestätigung. Schauen Sie in Ihr Postfach, auch im Spam.',
    },
    confirmed: { heading: 'Sie stehen auf der Liste', message: 'Danke für die Bestätigung. Sie hören von uns.' },
    linkExpired: {
      heading: 'Dieser Link ist verbraucht',
      message:
        'Er wurde schon benutzt oder ist zu alt. Stehen Sie noch nicht auf der Liste, melden Sie sich bitte noch einmal an.',
    },
    left: { heading: 'Sie sind abgemeldet', message: 'Sie bekommen keine Nachrichten mehr.' },
    notPossible: {
      heading: 'Das hat nicht geklappt',
      message: 'Ihre Anmeldung konnte gerade nicht angenommen werden. Bitte versuchen Sie es später noch einmal.',
    },
    confirmPage: { heading: 'Zu „{list}“ anmelden?', message: 'Ein Klick, und Sie stehen auf der Liste.' },
    confirm: 'Ja, auf die Liste',
    leavePage: { heading: '„{list}“ verlassen?', message: 'Sie bekommen dann keine Nachrichten mehr.' },
    leave: 'Abmelden',
    returned: { heading: 'Willkommen zurück', message: 'Sie stehen wieder auf der Liste.' },
    comeBack: 'Wieder auf die Liste',
    sendAgain: 'Mail noch einmal senden',
    sentAgain: 'Die Mail ist noch einmal unterwegs.',
    mailHeld: 'Es wurde so viel Mail angefordert, dass diesmal keine hinausging. Ein Klick, und eine geht an Sie.',
    sendNow: 'Mail an mich senden',
    mailHeldToday:
      'Heute geht an diese Adresse keine Mail mehr. Fragen Sie morgen noch einmal: Ihre Anmeldung bleibt erhalten.',
    giftOver: {
      heading: 'Das Geschenk ist nicht mehr hier',
      message:
        'Dieser Link wurde so oft oder so lange benutzt, wie sein Absender es erlaubt. Antworten Sie auf die Mail, mit der er kam, wenn Sie es noch einmal brauchen.',
    },
    takeGift: 'Herunterladen',
  },
  fr: {
    joined: { heading: 'Vous êtes sur la liste', message: 'Merci. Vous aurez de nos nouvelles.' },
    alreadyOnList: {
      heading: 'Vous êtes déjà sur la liste',
      message: 'Cette adresse est sur la liste, il n’y a donc plus rien à faire.',
    },
    confirmFirst: {
      heading: 'Regardez votre boîte de réception',
      message:
        'Un message est en route, il arrive en général en une ou deux minutes. Ouvrez le lien qu’il contient et confirmez sur la page. S’il manque, regardez parmi les indésirables.',
    },
    alreadyWaiting: {
      heading: 'Reste à confirmer',
      message:
        'Cette adresse a déjà été donnée et attend d’être confirmée. Cherchez notre message, aussi parmi les indésirables.',
    },
    confirmed: { heading: 'Vous êtes sur la liste', message: 'Merci d’avoir confirmé. Vous aurez de nos nouvelles.' },
    linkExpired: {
      heading: 'Ce lien ne sert plus',
      message:
        'Il a déjà été utilisé, ou il est trop ancien. Si vous n’êtes pas encore sur la liste, inscrivez-vous à nouveau.',
    },
    left: { heading: 'Vous avez quitté la liste', message: 'Vous ne recevrez plus ses messages.' },
    notPossible: {
      heading: 'Cela n’a pas marché',
      message: 'Votre inscription n’a pas pu être prise pour le moment. Merci de réessayer plus tard.',
    },
    confirmPage: { heading: 'S’inscrire à « {list} » ?', message: 'Un clic, et vous êtes sur la liste.' },
    confirm: 'Oui, inscrivez-moi',
    leavePage: { heading: 'Quitter « {list} » ?', message: 'Vous ne recevrez plus ses messages.' },
    leave: 'Quitter la liste',
    returned: { heading: 'Bon retour', message: 'Vous êtes de nouveau sur la liste.' },
    comeBack: 'Me remettre sur la liste',
    sendAgain: 'Renvoyer le message',
    sentAgain: 'Le message est de nouveau en route.',
    mailHeld: 'Tant de messages ont été demandés qu’aucun n’est parti cette fois. Un clic et il en part un pour vous.',
    sendNow: 'M’envoyer le message',
    mailHeldToday:
      'Plus aucun message ne part vers cette adresse aujourd’hui. Redemandez demain : votre inscription est conservée.',
    giftOver: {
      heading: 'Le cadeau n’est plus ici',
      message:
        'Ce lien a servi aussi souvent, ou aussi longtemps, que son expéditeur le permet. Répondez au message qui le contenait si vous en avez encore besoin.',
    },
    takeGift: 'Télécharger',
  },
  es: {
    joined: { heading: 'Está en la lista', message: 'Gracias. Tendrá noticias nuestras.' },
    alreadyOnList: {
      heading: 'Ya estaba en la lista',
      message: 'Esta dirección está en la lista, así que no queda nada por hacer.',
    },
    confirmFirst: {
      heading: 'Mire su correo',
      message:
        'Un mensaje va en camino, suele tardar uno o dos minutos. Abra su enlace y confirme en la página. Si no está, mire en el correo no deseado.',
    },
    alreadyWaiting: {
      heading: 'Falta un clic',
      message:
        'Esta dirección ya se dio y espera confirmación. Busque nuestro mensaje, también en el correo no deseado.',
    },
    confirmed: { heading: 'Está en la lista', message: 'Gracias por confirmar. Tendrá noticias nuestras.' },
    linkExpired: {
      heading: 'Este enlace ya no sirve',
      message: 'Ya se usó, o es demasiado antiguo. Si aún no está en la lista, apúntese otra vez.',
    },
    left: { heading: 'Ha dejado la lista', message: 'No recibirá más mensajes.' },
    notPossible: {
      heading: 'No ha funcionado',
      message: 'Ahora mismo no se pudo tomar su inscripción. Inténtelo de nuevo más tarde.',
    },
    confirmPage: { heading: '¿Apuntarse a «{list}»?', message: 'Un clic y estará en la lista.' },
    confirm: 'Sí, a la lista',
    leavePage: { heading: '¿Dejar «{list}»?', message: 'No recibirá más mensajes.' },
    leave: 'Dejar la lista',
    returned: { heading: 'Bienvenido de nuevo', message: 'Vuelve a estar en la lista.' },
    comeBack: 'Volver a la lista',
    sendAgain: 'Enviar el mensaje otra vez',
    sentAgain: 'El mensaje va otra vez en camino.',
    mailHeld: 'Se pidieron tantos correos que esta vez no salió ninguno. Un clic y sale uno para usted.',
    sendNow: 'Enviarme el correo',
    mailHeldToday: 'Hoy no sale ningún correo más a esta dirección. Pídalo mañana: su inscripción se conserva.',
    giftOver: {
      heading: 'El regalo ya no está aquí',
      message:
        'Este enlace se ha usado tantas veces, o tanto tiempo, como permite su remitente. Responda al mensaje en que llegó si lo necesita otra vez.',
    },
    takeGift: 'Descargar',
  },
  pt: {
    joined: { heading: 'Está na lista', message: 'Obrigado. Terá notícias nossas.' },
    alreadyOnList: {
      heading: 'Já estava na lista',
      message: 'Este endereço está na lista, por isso não falta fazer nada.',
    },
    confirmFirst: {
      heading: 'Veja o seu correio',
      message:
        'Vai a caminho uma mensagem, em geral chega num ou dois minutos. Abra a ligação e confirme na página. Se não estiver lá, veja no spam.',
    },
    alreadyWaiting: {
      heading: 'Falta um clique',
      message: 'Este endereço já foi dado e espera confirmação. Procure a nossa mensagem, também no spam.',
    },
    confirmed: { heading: 'Está na lista', message: 'Obrigado por confirmar. Terá notícias nossas.' },
    linkExpired: {
      heading: 'Esta ligação já não serve',
      message: 'Já foi usada, ou é demasiado antiga. Se ainda não está na lista, inscreva-se outra vez.',
    },
    left: { heading: 'Saiu da lista', message: 'Não recebe mais mensagens.' },
    notPossible: {
      heading: 'Não funcionou',
      message: 'De momento não foi possível aceitar a inscrição. Tente de novo mais tarde.',
    },
    confirmPage: { heading: 'Inscrever-se em «{list}»?', message: 'Um clique e está na lista.' },
    confirm: 'Sim, ponham-me na lista',
    leavePage: { heading: 'Sair de «{list}»?', message: 'Não recebe mais mensagens.' },
    leave: 'Sair da lista',
    returned: { heading: 'Bem-vindo de volta', message: 'Está outra vez na lista.' },
    comeBack: 'Voltar à lista',
    sendAgain: 'Enviar a mensagem outra vez',
    sentAgain: 'A mensagem vai outra vez a caminho.',
    mailHeld: 'Foram pedidas tantas mensagens que desta vez nenhuma seguiu. Um clique e segue uma para si.',
    sendNow: 'Enviar-me a mensagem',
    mailHeldToday:
      'Hoje não segue mais nenhuma mensagem para este endereço. Peça de novo amanhã: a sua inscrição fica guardada.',
    giftOver: {
      heading: 'O presente já não está aqui',
      message:
        'Esta ligação foi usada tantas vezes, ou durante tanto tempo, quanto o remetente permite. Responda à mensagem em que veio se precisar dele outra vez.',
    },
    takeGift: 'Descarregar',
  },
  it: {
    joined: { heading: 'Sei nella lista', message: 'Grazie. Avrai nostre notizie.' },
    alreadyOnList: {
      heading: 'Sei già nella lista',
      message: 'Questo indirizzo è nella lista, quindi non resta nulla da fare.',
    },
    confirmFirst: {
      heading: 'Guarda nella tua posta',
      message:
        'Un messaggio è in arrivo, di solito in uno o due minuti. Apri il link e conferma sulla pagina. Se non c’è, guarda nello spam.',
    },
    alreadyWaiting: {
      heading: 'Manca un clic',
      message: 'Questo indirizzo è già stato dato e aspetta conferma. Cerca il nostro messaggio, anche nello spam.',
    },
    confirmed: { heading: 'Sei nella lista', message: 'Grazie per la conferma. Avrai nostre notizie.' },
    linkExpired: {
      heading: 'Questo link non vale più',
      message: 'È già stato usato, o è troppo vecchio. Se non sei ancora nella lista, iscriviti di nuovo.',
    },
    left: { heading: 'Hai lasciato la lista', message: 'Non riceverai più i suoi messaggi.' },
    notPossible: {
      heading: 'Non ha funzionato',
      message: 'Al momento l’iscrizione non è stata presa. Riprova più tardi.',
    },
    confirmPage: { heading: 'Iscriverti a «{list}»?', message: 'Un clic e sei nella lista.' },
    confirm: 'Sì, nella lista',
    leavePage: { heading: 'Lasciare «{list}»?', message: 'Non riceverai più i suoi messaggi.' },
    leave: 'Lascia la lista',
    returned: { heading: 'Bentornato', message: 'Sei di nuovo nella lista.' },
    comeBack: 'Rimettimi nella lista',
    sendAgain: 'Manda di nuovo il messaggio',
    sentAgain: 'Il messaggio è di nuovo in arrivo.',
    mailHeld:
      'Sono state chieste così tante mail che questa volta non ne è partita nessuna. Un clic e ne parte una per lei.',
    sendNow: 'Inviami la mail',
    mailHeldToday: 'Oggi a questo indirizzo non parte più nessuna mail. Richieda domani: la sua iscrizione resta.',
    giftOver: {
      heading: 'Il regalo non è più qui',
      message:
        'Questo link è stato usato tante volte, o tanto a lungo, quanto consente il mittente. Risponda al messaggio con cui è arrivato se ne ha ancora bisogno.',
    },
    takeGift: 'Scarica',
  },
  nl: {
    joined: { heading: 'Je staat op de lijst', message: 'Bedankt. Je hoort van ons.' },
    alreadyOnList: {
      heading: 'Je staat al op de lijst',
      message: 'Dit adres staat op de lijst, dus er is niets meer te doen.',
    },
    confirmFirst: {
      heading: 'Kijk in je mailbox',
      message:
        'Er is een mail onderweg, meestal binnen een of twee minuten. Open de link daarin en bevestig op de pagina. Staat hij er niet, kijk dan bij de spam.',
    },
    alreadyWaiting: {
      heading: 'Er ontbreekt nog één klik',
      message: 'Dit adres is al opgegeven en wacht op bevestiging. Zoek onze mail, ook bij de spam.',
    },
    confirmed: { heading: 'Je staat op de lijst', message: 'Bedankt voor het bevestigen. Je hoort van ons.' },
    linkExpired: {
      heading: 'Deze link is op',
      message: 'Hij is al gebruikt, of hij is te oud. Sta je nog niet op de lijst, meld je dan opnieuw aan.',
    },
    left: { heading: 'Je hebt de lijst verlaten', message: 'Je krijgt geen berichten meer.' },
    notPossible: {
      heading: 'Dat is niet gelukt',
      message: 'Je aanmelding kon nu niet worden aangenomen. Probeer het later nog eens.',
    },
    confirmPage: { heading: 'Aanmelden voor “{list}”?', message: 'Eén klik en je staat op de lijst.' },
    confirm: 'Ja, zet me op de lijst',
    leavePage: { heading: '“{list}” verlaten?', message: 'Je krijgt dan geen berichten meer.' },
    leave: 'Afmelden',
    returned: { heading: 'Welkom terug', message: 'Je staat weer op de lijst.' },
    comeBack: 'Zet me terug op de lijst',
    sendAgain: 'Stuur de mail nog eens',
    sentAgain: 'De mail is opnieuw onderweg.',
    mailHeld: 'Er is zoveel mail gevraagd dat er deze keer geen uitging. Eén klik en er gaat er een naar u.',
    sendNow: 'Stuur mij de mail',
    mailHeldToday:
      'Vandaag gaat er geen mail meer naar dit adres. Vraag het morgen opnieuw: uw aanmelding blijft bewaard.',
    giftOver: {
      heading: 'Het cadeau is hier niet meer',
      message:
        'Deze link is zo vaak of zo lang gebruikt als de afzender toestaat. Antwoord op het bericht waarin hij stond als u het nog eens nodig hebt.',
    },
    takeGift: 'Downloaden',
  },
  pl: {
    joined: { heading: 'Jesteś na liście', message: 'Dziękujemy. Odezwiemy się.' },
    alreadyOnList: {
      heading: 'Jesteś już na liście',
      message: 'Ten adres jest na liście, więc nie trzeba nic więcej robić.',
    },
    confirmFirst: {
      heading: 'Zajrzyj do skrzynki',
      message:
        'Wiadomość jest w drodze, zwykle dociera w minutę lub dwie. Otwórz link i potwierdź na stronie. Jeśli jej nie ma, zajrzyj do spamu.',
    },
    alreadyWaiting: {
      heading: 'Brakuje jednego kliknięcia',
      message: 'Ten adres został już podany i czeka na potwierdzenie. Poszukaj naszej wiadomości, także w spamie.',
    },
    confirmed: { heading: 'Jesteś na liście', message: 'Dziękujemy za potwierdzenie. Odezwiemy się.' },
    linkExpired: {
      heading: 'Ten odnośnik już nie działa',
      message: 'Został już użyty albo jest zbyt stary. Jeśli nie ma Cię jeszcze na liście, zapisz się ponownie.',
    },
    left: { heading: 'Nie ma Cię już na liście', message: 'Nie będzie więcej wiadomości.' },
    notPossible: {
      heading: 'To się nie udało',
      message: 'Nie można teraz przyjąć zgłoszenia. Spróbuj ponownie później.',
    },
    confirmPage: { heading: 'Zapisać się na „{list}”?', message: 'Jedno kliknięcie i adres jest na liście.' },
    confirm: 'Tak, zapiszcie mnie',
    leavePage: { heading: 'Wypisać się z „{list}”?', message: 'Nie będzie więcej wiadomości.' },
    leave: 'Wypisz mnie',
    returned: { heading: 'Witamy z powrotem', message: 'Adres znów jest na liście.' },
    comeBack: 'Wróć na listę',
    sendAgain: 'Wyślij wiadomość ponownie',
    sentAgain: 'Wiadomość jest znów w drodze.',
    mailHeld:
      'Zamówiono tak wiele wiadomości, że tym razem żadna nie wyszła. Jedno kliknięcie i wyjdzie jedna do Państwa.',
    sendNow: 'Wyślij mi wiadomość',
    mailHeldToday:
      'Dziś na ten adres nie wyjdzie już żadna wiadomość. Proszę spróbować jutro: zapis zostaje zachowany.',
    giftOver: {
      heading: 'Prezentu już tu nie ma',
      message:
        'Ten link został użyty tyle razy lub tak długo, jak pozwala nadawca. Jeśli prezent jest jeszcze potrzebny, proszę odpowiedzieć na wiadomość, w której przyszedł.',
    },
    takeGift: 'Pobierz',
  },
  ja: {
    joined: { heading: '登録されました', message: 'ありがとうございます。お便りをお待ちください。' },
    alreadyOnList: {
      heading: 'すでに登録されています',
      message: 'このアドレスは登録済みですので、何もする必要はありません。',
    },
    confirmFirst: {
      heading: '受信トレイをご確認ください',
      message:
        '確認のメールをお送りしました。通常は一、二分で届きます。メールのボタンで開くページで、登録を確認してください。届かないときは迷惑メールもご確認ください。',
    },
    alreadyWaiting: {
      heading: '確認がまだ済んでいません',
      message: 'このアドレスは確認待ちです。受信トレイと迷惑メールをご確認ください。',
    },
    confirmed: { heading: '登録されました', message: 'ご確認ありがとうございます。お便りをお待ちください。' },
    linkExpired: {
      heading: 'このリンクは使えません',
      message: 'すでに使われたか、期限が切れています。まだ登録されていない場合は、もう一度ご登録ください。',
    },
    left: { heading: '登録を解除しました', message: '今後メールは届きません。' },
    notPossible: {
      heading: '登録できませんでした',
      message: '現在受け付けることができません。しばらくしてからもう一度お試しください。',
    },
    confirmPage: { heading: '「{list}」に登録しますか', message: 'ボタンを押すと登録が完了します。' },
    confirm: 'はい、登録します',
    leavePage: { heading: '「{list}」の登録を解除しますか', message: '今後メールは届かなくなります。' },
    leave: '登録を解除する',
    returned: { heading: 'お帰りなさい', message: 'もう一度登録されました。' },
    comeBack: 'もう一度登録する',
    sendAgain: 'メールをもう一度送る',
    sentAgain: 'メールをもう一度お送りしました。',
    mailHeld: '多くのメールが求められたため、今回は送っていません。ボタンを押すと一通お送りします。',
    sendNow: 'メールを送る',
    mailHeldToday: '本日はこのアドレスへの送信を終えました。明日もう一度お試しください。登録内容は保存されています。',
    giftOver: {
      heading: 'プレゼントはもうありません',
      message:
        'このリンクは、送信者が許可した回数または期間だけ使われました。もう一度必要な場合は、このリンクが届いたメールに返信してください。',
    },
    takeGift: 'ダウンロード',
  },
  ar: {
    joined: { heading: 'أنت في القائمة', message: 'شكرًا لك. ستصلك أخبارنا.' },
    alreadyOnList: { heading: 'أنت في القائمة من قبل', message: 'هذا العنوان في القائمة، فلا يلزم فعل أي شيء.' },
    confirmFirst: {
      heading: 'انظر في بريدك',
      message:
        'رسالة في طريقها إليك، تصل عادة خلال دقيقة أو اثنتين. اضغط الزر فيها ثم أكّد في الصفحة التي تُفتح. إن لم تجدها فانظر في الرسائل المزعجة.',
    },
    alreadyWaiting: {
      heading: 'تنقص ضغطة واحدة',
      message: 'أُعطي هذا العنوان من قبل وينتظر التأكيد. ابحث عن رسالتنا، وبين الرسائل المزعجة أيضًا.',
    },
    confirmed: { heading: 'أنت في القائمة', message: 'شكرًا على التأكيد. ستصلك أخبارنا.' },
    linkExpired: {
      heading: 'لم يعد هذا الرابط صالحًا',
      message: 'استُعمل من قبل أو هو قديم جدًا. إن لم تكن في القائمة بعد فاشترك مرة أخرى.',
    },
    left: { heading: 'غادرت القائمة', message: 'لن تصلك رسائلها بعد الآن.' },
    notPossible: { heading: 'لم ينجح ذلك', message: 'تعذر قبول اشتراكك الآن. يرجى المحاولة لاحقًا.' },
    confirmPage: { heading: 'الاشتراك في «{list}»؟', message: 'ضغطة واحدة وتصبح في القائمة.' },
    confirm: 'نعم، أضيفوني إلى القائمة',
    leavePage: { heading: 'مغادرة «{list}»؟', message: 'لن تصلك رسائلها بعد الآن.' },
    leave: 'مغادرة القائمة',
    returned: { heading: 'أهلًا بعودتك', message: 'أنت في القائمة من جديد.' },
    comeBack: 'أعيدوني إلى القائمة',
    sendAgain: 'أرسلوا الرسالة مرة أخرى',
    sentAgain: 'الرسالة في طريقها من جديد.',
    mailHeld: 'طُلبت رسائل كثيرة فلم تُرسل أي رسالة هذه المرة. ضغطة واحدة وتُرسل إليك رسالة.',
    sendNow: 'أرسلوا لي الرسالة',
    mailHeldToday: 'لن تُرسل اليوم رسائل أخرى إلى هذا العنوان. اطلبها غدًا: تسجيلك محفوظ.',
    giftOver: {
      heading: 'لم تعد الهدية هنا',
      message:
        'استُخدم هذا الرابط بالعدد أو للمدة التي يسمح بها المرسل. أجب على الرسالة التي وصل بها إن احتجت إليها مرة أخرى.',
    },
    takeGift: 'تنزيل',
  },
}

export function answerTextsOf(language: Language): AnswerTexts {
  return inLanguage[language]
}
