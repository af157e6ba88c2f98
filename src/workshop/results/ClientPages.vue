<script setup lang="ts">
import { ElButton, ElDatePicker, ElDialog, ElInput, ElOption, ElSelect } from 'element-plus'
import { ref, shallowRef } from 'vue'
import type { ClientPage } from '#core/api'
import type { FormId } from '#core/ids'
import { clientFor } from '../client'
import CopiedLine from '../controls/CopiedLine.vue'
import Labelled from '../controls/Labelled.vue'
import { endOfDay, isPast, shownMoment } from '../controls'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'

/** Pages of results for people without a key: made, their addresses copied, withdrawn. */
const emit = defineEmits<{ close: [] }>()
const isOpen = ref(true)
const receiver = useReceiver()
const workspace = useWorkspace()
const notices = useNotices()
const pages = shallowRef<ClientPage[] | null>(null)
const problem = ref('')
const name = ref('')
const forms = ref<FormId[]>([])
/** Its last day, local; null for no end. */
const lastDay = ref<Date | null>(null)
const isBusy = ref(false)
const isSure = ref<string | null>(null)
const client = () => clientFor({ ...receiver.pairing! })

async function tried(work: () => Promise<{ pages: ClientPage[] }>): Promise<boolean> {
  isBusy.value = true
  problem.value = ''
  try {
    ;({ pages: pages.value } = await work())
    return true
  } catch (error) {
    problem.value = error instanceof Error ? error.message : 'no answer'
    return false
  } finally {
    isBusy.value = false
  }
}
void tried(() => client().clientPages())

async function make(): Promise<void> {
  const until = lastDay.value === null ? null : endOfDay(lastDay.value)
  if (!(await tried(() => client().makeClientPage(name.value.trim(), [...forms.value], until)))) return
  name.value = ''
  forms.value = []
  lastDay.value = null
}
async function withdraw({ id, name: withdrawn }: ClientPage): Promise<void> {
  isSure.value = null
  if (await tried(() => client().withdrawClientPage(id)))
    notices.done(`“${withdrawn}” is withdrawn: its address leads nowhere now.`)
}
function formsWords({ forms: shown }: ClientPage): string {
  if (shown.length === 0) return 'All forms'
  return shown.map((id) => workspace.form(id)?.name ?? 'a form that is gone').join(', ')
}
</script>

<template>
  <ElDialog
    v-model="isOpen"
    title="A page for a client"
    width="min(680px, 94vw)"
    append-to-body
    @closed="emit('close')"
  >
    <div class="client-pages">
      <p>
        Whoever has its address sees sums and how each form stands, up to date, without names and addresses of people.
        They need no key. It can be withdrawn.
      </p>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <ul v-if="pages && pages.length > 0">
        <li v-for="page in pages" :key="page.id">
          <div class="row between">
            <span
              ><b>{{ page.name }}</b
              ><br />
              <span class="quiet small"
                >{{ formsWords(page) }}, since {{ shownMoment(new Date(page.madeAt).toISOString())
                }}{{ page.until ? `, until ${shownMoment(new Date(page.until).toISOString())}` : '' }}</span
              ></span
            >
            <span v-if="isSure !== page.id" class="row">
              <a :href="page.address" target="_blank" rel="noopener">Look at it</a>
              <ElButton text :aria-label="`Withdraw ${page.name}`" @click="isSure = page.id">Withdraw</ElButton></span
            >
            <span v-else class="row">
              <ElButton type="danger" @click="withdraw(page)">Withdraw the page</ElButton>
              <ElButton text @click="isSure = null">Keep it</ElButton>
            </span>
          </div>
          <CopiedLine :value="page.address" what="address" />
        </li>
      </ul>
      <form novalidate @submit.prevent="make">
        <Labelled label="Whom it is for" hint="It stands at the top of the page.">
          <ElInput v-model="name" maxlength="80" placeholder="Hill Café" />
        </Labelled>
        <Labelled label="Which forms">
          <ElSelect v-model="forms" multiple collapse-tags placeholder="All forms" aria-label="Which forms">
            <ElOption v-for="form in workspace.forms" :key="form.id" :value="form.id" :label="form.name" />
          </ElSelect>
        </Labelled>
        <Labelled label="Until" hint="Its last day. Empty: until it is withdrawn.">
          <ElDatePicker v-model="lastDay" type="date" format="D MMM YYYY" :disabled-date="isPast" aria-label="Until" />
        </Labelled>
        <div class="row">
          <ElButton type="primary" native-type="submit" :loading="isBusy" :disabled="name.trim() === ''"
            >Make a page</ElButton
          >
        </div>
      </form>
    </div>
  </ElDialog>
</template>

<style scoped>
.client-pages,
form,
ul,
li {
  display: grid;
  gap: var(--gap-3);
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  padding-bottom: var(--gap-3);
  border-bottom: 1px solid var(--hairline);
}
.between {
  justify-content: space-between;
}
p {
  margin: 0;
}
</style>
