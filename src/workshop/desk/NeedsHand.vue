<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { checkup, type Finding } from '#core/checkup'
import type { HandOver } from '#core/connection'
import { type Form, isPublishedAs } from '#core/form'
import type { SpotId } from '#core/ids'
import { byOlderCode, failedThere, failuresOf, refusedThere } from '#core/line'
import type { Proof } from '#core/proof'
import { spotName } from '#core/spot'
import { shownMoment } from '../controls'
import { database, isDemo, useLive, useWorkspace } from '../data'
import { useSubjects } from '../line/line'
import { useOutside } from '../connections'
import { useHeldMessages } from '../messages'
import { useRhythm } from '../results/rhythm'
import { useReceiver } from '../sync'
import { useOlderCode } from '../form/spot/older-code'
import { stationNames } from '#core/station'
import { type Need, useReceiverNeeds } from './receiver-needs'
import { useReceiverState } from './receiver-state'

/** What waits for the owner today: broken stations, unpublished drafts, old code, refused changes, a backup. */
const DAY_MS = 86_400_000
const BACKUP_AFTER_DAYS = 14
/** More than are read at a glance. */
const SHOWN = 6
const isWhole = ref(false)

const workspace = useWorkspace()
const receiver = useReceiver()
const rhythms = useRhythm()
const subjects = useSubjects()
const forms = computed(() => workspace.forms.filter(({ isArchived }) => !isArchived))
const refused = useLive(() => database.commands.filter(({ refusal }) => refusal !== null).toArray(), [])
const olderCode = useOlderCode()
const held = useHeldMessages()

const receiverNeeds = useReceiverNeeds()
const receiverState = useReceiverState()
const proofs = useLive(() => database.proofs.toArray(), [] as Proof[])
const failed = computed(() =>
  forms.value.flatMap((form) => {
    const subject = {
      ...subjects.of(form),
      versions: workspace.versionsOf(form.id),
      arrivals: [],
      proofs: proofs.value,
      delivery: null,
    }
    return subject.spots.flatMap((spot) => failuresOf(subject, spot).map((failure) => ({ form, spot, ...failure })))
  }),
)

interface Stopped {
  handOver: HandOver
  name: string
  trouble: string
  /** Whether it is mended at the connection: at its key. */
  isOfConnection?: boolean
}
/** Lists that do not get to where they are handed on to. */
const outside = useOutside()
const stopped = computed(() =>
  workspace.handOvers.flatMap((handOver): Stopped[] => {
    const connection = workspace.connection(handOver.connection)
    if (connection === null || handOver.isPaused) return []
    const name = handOver.target?.name ?? connection.name
    const trouble = outside.trouble(handOver)
    const standing = outside.handOver(handOver.id)
    const refused = standing?.refused ?? 0
    const newName = standing?.changed?.listName ?? null
    const isOfConnection =
      outside.connection(connection.id)?.key !== 'yes' ||
      ['key-refused', 'key-not-sent'].includes(outside.connection(connection.id)?.halted?.means ?? '')
    if (trouble !== null) return [{ handOver, name, trouble, isOfConnection }]
    return refused > 0
      ? [
          {
            handOver,
            name,
            trouble: refusedThere(refused),
          },
        ]
      : newName === null
        ? []
        : [{ handOver, name, trouble: `It is called “${newName}” there now: call it so here too.` }]
  }),
)

/** The worst first, and a cause that several share once. */
const needs = computed((): (Need & { others: number })[] => {
  const byText = new Map<string, Need & { others: number }>()
  for (const one of unordered.value.toSorted((one, other) => one.order - other.order)) {
    const same = byText.get(one.text)
    if (same === undefined) byText.set(one.text, { ...one, others: 0 })
    else same.others += 1
  }
  return [...byText.values()]
})
const unordered = computed((): Need[] => [
  ...failed.value.map(({ form, spot, proof, step }) => ({
    key: `${proof.id} ${step.station}`,
    order: 1 as const,
    text: `${spotName(spot, workspace.sites)} failed its rehearsal ${shownMoment(proof.at)}: ${failedThere(step)} ${step.failure?.mend ?? ''}`,
    to: { name: 'form', params: { id: form.id, station: step.station } },
    about: `${stationNames[step.station]} · ${form.name}`,
  })),
  ...receiverNeeds.value,
  ...stopped.value.map(({ handOver, trouble, name, isOfConnection = false }) => ({
    key: `${handOver.id} stopped`,
    order: 1 as const,
    text: trouble,
    // A wrong key is mended at the connection that has it.
    to: isOfConnection
      ? { name: 'connections', params: { id: handOver.connection } }
      : { name: 'hand-over', params: { id: handOver.list, handOver: handOver.id } },
    about: isOfConnection
      ? `Connection ${workspace.connection(handOver.connection)?.name ?? ''}`
      : `${workspace.list(handOver.list)?.name ?? 'A list'} is handed on to ${name}`,
  })),
  // Those that are put away take messages as well.
  ...workspace.forms.flatMap(({ id, name }): Need[] => {
    const count = held.value.get(id) ?? 0
    const said = count === 1 ? 'One message is held back' : `${count} messages are held back`
    const to = { name: 'messages', params: { id }, query: { view: 'held' } }
    return count === 0
      ? []
      : [{ key: `${id} held`, order: 2, text: `${said}: look whether somebody is among them.`, to, about: name }]
  }),
  ...refused.value.map((one) => ({
    key: one.id,
    order: 2 as const,
    text: one.refusal?.message ?? '',
    to: { name: 'list', params: { id: one.command.list } },
    about: 'A change was not made',
  })),
  ...forms.value.flatMap((form) => findingsOf(form).map((finding) => need(form, finding))),
  ...waitingForSites.value,
  ...forms.value.flatMap((form) => {
    const quiet = rhythms.of(form.id)?.quiet ?? null
    if (quiet === null) return []
    const to = { name: 'results', query: { form: form.id } }
    return [{ key: `${form.id} quiet`, order: 2 as const, text: `Has fallen quiet: ${quiet}.`, to, about: form.name }]
  }),
  ...forms.value.filter(hasUnpublishedChanges).map((form) => ({
    key: `${form.id} draft`,
    order: 3 as const,
    text: 'Has changes that are not published: look at them, and publish.',
    to: { name: 'form', params: { id: form.id } },
    about: form.name,
  })),
  ...forms.value
    .map((form) => ({ form, count: olderCode.count(form.id) }))
    .filter(({ count }) => count > 0)
    .map(({ form, count }) => ({
      key: `${form.id} old`,
      order: 2 as const,
      text: byOlderCode(count),
      to: { name: 'form', params: { id: form.id, station: 'spot' } },
      about: form.name,
    })),
  ...(isBackupDue.value
    ? [
        {
          key: 'backup',
          order: 4 as const,
          text: `${receiver.backupAt === null ? 'There is no backup file yet.' : 'The last backup is over two weeks old.'} Save one in the settings.`,
          to: { name: 'settings' },
          about: 'Backup',
        },
      ]
    : []),
])

/** Spots through which somebody ever came. */
const cameFrom = useLive(
  async () => new Set((await database.lastArrivals.toArray()).map(({ spot }) => spot)),
  new Set<SpotId>(),
)
/** Once visitors reach Ask Box: what was made before then, and waits for its real site. */
const waitingForSites = computed((): Need[] =>
  receiverState.isOnline.value && !isDemo
    ? forms.value.flatMap((form) =>
        workspace.spotsOf(form.id).flatMap((spot): Need[] => {
          const latest = workspace.latestVersion(form.id)
          if (spot.state !== 'live' || latest === null) return []
          const meant = spot.meant === undefined ? null : workspace.site(spot.meant)
          const at = {
            to: { name: 'form', params: { id: form.id, station: 'spot' } },
            about: form.name,
            order: 2 as const,
          }
          if (meant !== null)
            return [{ ...at, key: `${spot.id} meant`, text: `Visitors reach Ask Box now: move it to ${meant.name}.` }]
          const hasCome = cameFrom.value.has(spot.id)
          const isTried = proofs.value.some((proof) => proof.spot === spot.id)
          const site = workspace.site(spot.site)
          return spot.kind === 'landing' || hasCome || isTried || site === null
            ? []
            : [{ ...at, key: `${spot.id} waits`, text: `Its code is ready for ${site.name}: put it on the page.` }]
        }),
      )
    : [],
)

/** By hand only where the receiver makes none by itself. */
const isBackupDue = computed(() => {
  const care = receiverState.care.value
  if (workspace.forms.length === 0 || isDemo || care?.backups.isOn) return false
  // Whether the receiver makes its own is not known yet.
  if (receiver.pairing !== null && care === null) return false
  return receiver.backupAt === null || Date.now() - Date.parse(receiver.backupAt) > BACKUP_AFTER_DAYS * DAY_MS
})

function findingsOf(form: Form): Finding[] {
  return checkup(subjects.of(form)).filter(({ weight }) => weight !== 'hint')
}

function hasUnpublishedChanges(form: Form): boolean {
  return !isPublishedAs(form, workspace.latestVersion(form.id))
}

function need(form: Form, finding: Finding): Need {
  return {
    key: `${form.id} ${finding.code} ${finding.about ?? ''}`,
    order: finding.weight === 'stops' ? 1 : 3,
    text: finding.message,
    to: { name: 'form', params: { id: form.id, station: finding.station } },
    about: `${stationNames[finding.station]} · ${form.name}`,
  }
}
</script>

<template>
  <section aria-labelledby="needs-title">
    <h2 id="needs-title">Needs a hand today</h2>
    <p v-if="needs.length === 0" class="quiet">Nothing: all is well.</p>
    <ul v-else>
      <li v-for="one in isWhole ? needs : needs.slice(0, SHOWN)" :key="one.key">
        <RouterLink :to="one.to">{{ one.about }}</RouterLink>
        <span v-if="one.others > 0">and {{ one.others }} more of your forms</span>
        <span>{{ one.text }}</span>
      </li>
    </ul>
    <ElButton v-if="needs.length > SHOWN && !isWhole" text size="small" @click="isWhole = true"
      >{{ needs.length - SHOWN }} more</ElButton
    >
  </section>
</template>

<style scoped>
h2 {
  margin-bottom: var(--gap-2);
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  padding: var(--gap-2) 0 var(--gap-2) var(--gap-3);
  border-inline-start: 3px solid var(--raspberry);
  line-height: 1.35;
}
li + li {
  margin-top: var(--gap-2);
}
li a {
  color: var(--ink);
  font-weight: 600;
}
li span {
  color: var(--quiet);
  font-size: var(--text-s);
}
</style>
