/** Subjects of a column, found by its heading. */
export type Heading =
  | 'email'
  | 'first'
  | 'last'
  | 'full'
  | 'tags'
  | 'status'
  | 'joined'
  /** Ticks or dates that say that somebody does not want mail, or has no working address. */
  | 'left'
  | 'bounced'
  | 'complained'
  /** Ticks or dates that say that somebody agreed. */
  | 'consent'
  | 'phone'
  | 'country'
  | 'town'
  | 'postcode'
  | 'street'
  | 'birthday'
  | 'organisation'
  | 'language'
  | 'website'
  | 'note'

/*
 * Headings that tables come with, in the ten languages of Ask Box, from memory: common practice, no published source. They
 * are compared without case, accents kept, and without anything but letters and digits.
 */
const headings: Record<Heading, string> = {
  email: `email, e-mail, mail, email address, mail address, e-mail-adresse, mailadresse, emailadresse, adresse e-mail
    courriel, adresse mail, correo, correo electrónico, dirección de correo, endereço de e-mail, indirizzo email, posta elettronica
    e-mailadres, adres e-mail, メール, メールアドレス, 電子メール, البريد الإلكتروني, بريد إلكتروني, البريد, address, adresse`,
  first: `first name, firstname, given name, forename, vorname, prénom, nombre, primeiro nome, nome próprio, nome, voornaam, imię
    名, 名前, الاسم الأول`,
  last: `last name, lastname, family name, surname, nachname, familienname, zuname, nom, nom de famille, apellido, apellidos
    sobrenome, apelido, último nome, cognome, achternaam, nazwisko, 姓, 苗字, اسم العائلة, اللقب`,
  full: `name, full name, display name, whole name, contact name, vollständiger name, ganzer name, nom complet, nombre completo
    nombre y apellidos, nome completo, nome e cognome, volledige naam, naam, imię i nazwisko, 氏名, お名前, الاسم, الاسم الكامل`,
  tags: `tag, tags, label, labels, category, categories, group, groups, topic, topics, interest, interests, segment, segments
    gruppe, gruppen, kategorie, kategorien, schlagwort, schlagworte, schlagwörter, themen, interessen, étiquette, étiquettes, groupe, groupes
    catégorie, catégories, intérêts, etiqueta, etiquetas, grupo, grupos, categoría, categorías, intereses, categoria, categorias
    interesses, etichetta, etichette, gruppo, gruppi, categorie, interessi, groep, groepen, labels, grupa, grupy, etykieta, etykiety
    kategoria, kategorie, zainteresowania, タグ, グループ, カテゴリー, カテゴリ, وسم, وسوم, مجموعة, مجموعات`,
  status: `status, state, subscription status, subscriber status, member status, email status, list status, subscription, subscribed
    zustand, anmeldestatus, abo, abostatus, abonnement, statut, état, statut d'abonnement, estado, estatus, suscripción, suscrito, situação
    estado da subscrição, assinatura, stato, stato iscrizione, iscrizione, inschrijving, abonnementsstatus, stan, status subskrypcji
    ステータス, 状態, 登録状態, 購読状態, الحالة, حالة الاشتراك`,
  joined: `joined, joined at, joined on, date joined, join date, signed up, signup, sign up date, signed up at, signed up on, signup date
    subscribed at, subscribed on, subscription date, created, created at, created on, date, date added, added, added at, added on
    opt in time, optin time, opt in date, opt-in, registered, registered at, registration date, confirm time, member since
    anmeldedatum, angemeldet am, anmeldung, eingetragen am, beigetreten, dabei seit, mitglied seit, erstellt, erstellt am, datum
    date d'inscription, inscrit le, inscription, ajouté le, créé le, fecha, fecha de alta, fecha de registro, fecha de suscripción, alta
    data, data de inscrição, data de registo, data de cadastro, inscrito em, data di iscrizione, data iscrizione, iscritto il
    aanmelddatum, aangemeld op, inschrijfdatum, ingeschreven op, lid sinds, data zapisu, data rejestracji, data dołączenia, zapisany
    登録日, 登録日時, 追加日, 作成日, 日付, تاريخ الاشتراك, تاريخ التسجيل, تاريخ الانضمام, التاريخ`,
  left: `unsubscribed, unsubscribed at, unsubscribed on, unsubscribe date, unsub time, unsubscribe, opt out, opted out, optout, opt out date
    left, left at, left on, abgemeldet, abgemeldet am, abmeldung, abmeldedatum, ausgetragen, désabonné, désinscrit, désabonné le
    désinscription, date de désinscription, baja, fecha de baja, dado de baja, descadastrado, saiu, data de saída, disiscritto
    data disiscrizione, disiscritto il, afgemeld, afgemeld op, uitgeschreven, uitgeschreven op, wypisany, data wypisania, rezygnacja
    退会, 退会日, 配信停止, 配信停止日, 解除日, do not mail, do not email, do not contact, no mail, ألغى الاشتراك, تاريخ الإلغاء`,
  bounced: `bounced, bounce, bounced at, hard bounce, hard bounced, bounces, cleaned, undeliverable, unzustellbar, rückläufer, rejeté
    rebotado, rebote, devolvido, respinto, onbestelbaar, odbity, 不達, مرتد`,
  complained: `complained, complaint, complained at, complaints, spam complaint, spam, reported, beschwerde, beschwert, plainte, queja
    queixa, reclamo, klacht, skarga, 苦情, شكوى`,
  consent: `consent, consented, consent given, gdpr, gdpr consent, permission, marketing, marketing consent, accepts marketing
    accepts email marketing, agreed, newsletter, wants newsletter, wants mail, einwilligung, zustimmung, dsgvo, consentement, rgpd, accord
    consentimiento, consentimento, lgpd, consenso, privacy, toestemming, avg, zgoda, rodo, 同意, メルマガ, メルマガ希望, موافقة, النشرة`,
  phone: `phone, phone number, telephone, tel, mobile, mobile phone, cell, telefon, telefonnummer, handy, mobil, mobilnummer, téléphone
    portable, numéro de téléphone, teléfono, móvil, telefone, telemóvel, celular, telefono, cellulare, telefoon, telefoonnummer, mobiel
    numer telefonu, komórka, 電話, 電話番号, 携帯電話, الهاتف, رقم الهاتف, الجوال`,
  country: `country, land, pays, país, paese, nazione, kraj, 国, البلد, الدولة`,
  town: `town, city, place, ort, stadt, wohnort, ville, ciudad, población, cidade, localidade, città, comune, plaats, woonplaats, stad
    miasto, miejscowość, 市, 市区町村, المدينة`,
  postcode: `postcode, post code, postal code, zip, zip code, plz, postleitzahl, code postal, código postal, cep, cap
    kod pocztowy, 郵便番号, الرمز البريدي`,
  street: `street, street address, straße, strasse, anschrift, rue, calle, rua, morada, via, indirizzo, straat, ulica, 住所, الشارع`,
  birthday: `birthday, birth date, date of birth, geburtstag, geburtsdatum, anniversaire, date de naissance, cumpleaños
    fecha de nacimiento, aniversário, data de nascimento, compleanno, data di nascita, verjaardag, geboortedatum, urodziny, data urodzenia
    誕生日, 生年月日, تاريخ الميلاد`,
  organisation: `organisation, organization, company, firm, school, firma, unternehmen, entreprise, société, empresa, organización
    organização, azienda, società, bedrijf, organisatie, organizacja, 会社, 会社名, الشركة`,
  language: `language, sprache, langue, idioma, língua, lingua, taal, język, 言語, اللغة`,
  website: `website, web site, web address, url, homepage, webseite, site web, sitio web, página web, sito web, strona, ウェブサイト, الموقع`,
  note: `note, notes, comment, comments, remark, notiz, notizen, bemerkung, kommentar, remarque, commentaire, nota, notas, comentario
    comentário, note, commento, opmerking, notatki, uwagi, メモ, 備考, ملاحظات`,
}

const headingOf = new Map<string, Heading>()
for (const [heading, text] of Object.entries(headings))
  for (const name of text.split(/[,\n]/)) {
    const key = lettersOf(name)
    // Of a name that means several, the one said first.
    if (key !== '' && !headingOf.has(key)) headingOf.set(key, heading as Heading)
  }

/** A heading's letters and digits, by which it is compared. */
export function lettersOf(name: string): string {
  return name
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '')
}

/** What a heading says that its column is about; of `name.first`, as objects within objects are headed, the last part tells. */
export function headingIn(name: string): Heading | null {
  const whole = headingOf.get(lettersOf(name))
  if (whole !== undefined) return whole
  const parts = name.split('.')
  const last = parts.length > 1 ? lettersOf(parts.at(-1)!) : ''
  if (last === 'first' || last === 'last' || last === 'full') return last
  return headingOf.get(last) ?? headingOf.get(lettersOf(parts.slice(-2).join(' '))) ?? null
}
