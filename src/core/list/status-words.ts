/** What a word in a column about status, or a tick in one about consent, says of somebody. */
export const statusMeanings = [
  'confirmed',
  'waiting',
  'left',
  'removed',
  'bounced',
  'complained',
  'not-taken',
  'nothing',
] as const
export type StatusMeaning = (typeof statusMeanings)[number]

/** Stands for every cell that is a date: “unsubscribed on 3 May” says the same of everybody, whenever it was. */
export const A_DATE = '\tdate'

/** One word, however it is spelt: case, underscores and dashes, full stops and width make no other word of it. */
export function wordOf(cell: string): string {
  const text = cell
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[_\-\s]+/g, ' ')
  let [start, end] = [0, text.length]
  while (start < end && AROUND.includes(text[start]!)) start += 1
  while (end > start && AROUND.includes(text[end - 1]!)) end -= 1
  return text.slice(start, end)
}
/** Says nothing at either end of a word. */
const AROUND = ` .!"'“”`

/*
 * Words that files have for these, in the ten languages of Ask Box, from memory: common practice, no published source. They are
 * only offered: each stands on screen with its count before anybody comes in.
 */
const statusWords: Record<Exclude<StatusMeaning, 'nothing' | 'not-taken'>, string> = {
  confirmed: `
    on the list, confirmed, subscribed, subscriber, active, opted in, opt in, double opt in, verified, valid, live
    auf der liste, bestätigt, aktiv, angemeldet, abonniert, abonnent, eingetragen
    sur la liste, confirmé, confirmée, abonné, abonnée, inscrit, inscrite, actif, active
    en la lista, confirmado, confirmada, suscrito, suscrita, activo, activa, inscripto
    na lista, inscrito, inscrita, subscrito, assinante, ativo, ativa
    nella lista, confermato, confermata, iscritto, iscritta, attivo, attiva
    op de lijst, bevestigd, ingeschreven, aangemeld, actief, geabonneerd
    na liście, potwierdzony, potwierdzona, potwierdzone, zapisany, zapisana, aktywny, aktywna, subskrybuje
    登録済み, 登録, 登録中, 購読中, 確認済み, 有効, アクティブ
    مشترك, مشتركة, مؤكد, مؤكدة, نشط, نشطة, مسجل`,
  waiting: `
    waiting, to confirm, pending, unconfirmed, not confirmed, awaiting confirmation, unverified, not verified
    wartet, ausstehend, unbestätigt, nicht bestätigt, offen, zu bestätigen
    en attente, non confirmé, non confirmée, à confirmer
    pendiente, en espera, sin confirmar, no confirmado, por confirmar
    pendente, em espera, por confirmar, não confirmado
    in attesa, non confermato, da confermare
    wachtend, in afwachting, onbevestigd, niet bevestigd
    oczekujący, oczekująca, oczekuje, niepotwierdzony, niepotwierdzona, do potwierdzenia
    確認待ち, 保留, 保留中, 未確認, 仮登録
    بانتظار التأكيد, قيد الانتظار, معلق, غير مؤكد`,
  left: `
    left, unsubscribed, unsubscribe, opted out, opt out, optout, signed off, cancelled, canceled, resigned
    abgemeldet, ausgetragen, abbestellt, gekündigt, widerrufen
    désabonné, désabonnée, désinscrit, désinscrite, parti, résilié
    baja, dado de baja, dada de baja, de baja, desuscrito, cancelado, cancelada
    saiu, cancelou, descadastrado, desinscrito, anulou a subscrição
    disiscritto, disiscritta, cancellato, cancellata, annullato
    afgemeld, uitgeschreven, opgezegd
    wypisany, wypisana, wypisał się, rezygnacja, zrezygnował
    退会, 退会済み, 配信停止, 解除, 解除済み, 購読解除
    ألغى الاشتراك, إلغاء الاشتراك, غير مشترك, ملغى`,
  removed: `
    removed, deleted, archived, inactive, disabled, blocked, suppressed, suspended, banned, excluded
    entfernt, gelöscht, archiviert, inaktiv, gesperrt, deaktiviert
    supprimé, supprimée, retiré, archivé, inactif, inactive, bloqué
    eliminado, eliminada, borrado, archivado, inactivo, inactiva, bloqueado
    removido, removida, apagado, arquivado, inativo, inativa, bloqueado, excluído
    rimosso, rimossa, eliminato, archiviato, inattivo, bloccato
    verwijderd, gearchiveerd, inactief, geblokkeerd
    usunięty, usunięta, zarchiwizowany, nieaktywny, nieaktywna, zablokowany
    削除, 削除済み, 無効, 停止, アーカイブ
    محذوف, مؤرشف, غير نشط, محظور`,
  bounced: `
    bounced, bounce, hard bounce, hard bounced, soft bounce, cleaned, invalid, undeliverable, undelivered, failed, not deliverable
    unzustellbar, nicht zustellbar, ungültig, rückläufer, zurückgewiesen
    rejeté, non distribuable, invalide, adresse invalide, rebond
    rebotado, rebotada, rebote, no válido, inválido, inválida
    devolvido, devolvida, rejeitado
    respinto, rimbalzato, non valido, non recapitabile
    ongeldig, onbestelbaar, teruggestuurd
    odbity, odrzucony, nieprawidłowy, niedostarczalny
    不達, エラー, 無効なアドレス, 配信不能
    مرتد, غير صالح, تعذر التسليم`,
  complained: `
    complained, complaint, spam, spam complaint, reported, reported as spam, marked as spam, abuse
    beschwert, beschwerde, hat sich beschwert, als spam gemeldet, spam gemeldet
    plainte, s'est plaint, signalé, signalé comme spam
    queja, se quejó, denunciado, marcado como spam
    queixa, queixou se, reclamação, reclamou, denunciou
    reclamo, segnalato, segnalato come spam
    klacht, heeft geklaagd, gemeld als spam
    skarga, złożył skargę, zgłoszony jako spam
    苦情, 迷惑メール報告
    شكوى, اشتكى, أبلغ عن بريد مزعج`,
}

const tickWords = {
  yes: `
    yes, y, true, 1, x, on, ok, ✓, ✔, ☑, checked, ja, j, wahr, an, oui, o, vrai, sí, si, s, verdadero, sim, verdadeiro, sì, vero
    waar, aan, tak, t, prawda, はい, 有, ○, نعم, صحيح`,
  no: `
    no, n, false, 0, off, ✗, ✘, ☐, unchecked, nein, falsch, aus, non, faux, falso, não, nao, nee, onwaar, uit, nie, fałsz
    いいえ, 無, ×, لا, خطأ`,
}

const split = (text: string) => text.split(/[,\n]/).map(wordOf).filter(Boolean)
const statusOf = new Map<string, StatusMeaning>(
  Object.entries(statusWords).flatMap(([meaning, text]) => split(text).map((word) => [word, meaning as StatusMeaning])),
)
const tickOf = new Map<string, boolean>([
  ...split(tickWords.yes).map((word) => [word, true] as const),
  ...split(tickWords.no).map((word) => [word, false] as const),
])

/** What a word is known to say of somebody; null for one that only the owner can tell. */
export function statusIn(word: string): StatusMeaning | null {
  return statusOf.get(wordOf(word)) ?? null
}

/** Whether a word ticks something or leaves it unticked; null where it is neither. */
export function tickIn(word: string): boolean | null {
  return tickOf.get(wordOf(word)) ?? null
}
