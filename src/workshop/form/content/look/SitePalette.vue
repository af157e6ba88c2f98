<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import type { Form } from '#core/form'
import { coloursFrom, inManner, nearestFont, type Palette, quietPalette } from '#core/look'
import { addressProblem, siteHost } from '#core/site'
import Labelled from '../../../controls/Labelled.vue'
import type { Draft } from '../../draft'
import { useNotices } from '../../../notices'
import { useWorkspace } from '../../../data'
import { paletteBeside } from '../../../sites/palette'
import { isStopped } from '../../../worker-calls'
import { useSiteReading } from '../../../sites/reading'
import Swatches from '../../../controls/Swatches.vue'

/** Takes colours and type from the site: its owner pastes a page or a style sheet and says which colour is for what. */
const { form, draft } = defineProps<{ form: Form; draft: Draft }>()

const workspace = useWorkspace()
const notices = useNotices()
const isOpen = ref(false)
const pasted = ref('')
const isReading = ref(false)
const problem = ref('')
const colours = ref<{ colour: string; uses: number }[]>([])
const palette = ref<Palette | null>(null)
const site = computed(() => {
  const [spot] = workspace.spotsOf(form.id)
  return spot ? workspace.site(spot.site) : null
})
const roles = [
  { key: 'background', name: 'Background' },
  { key: 'text', name: 'Text' },
  { key: 'accent', name: 'Emphasis' },
] as const

const reading = useSiteReading()
const hasAddress = computed(() => site.value !== null && addressProblem(site.value.address) === null)
async function readAddress(): Promise<void> {
  const seen = await reading.read(site.value!.address)
  if (seen === null) return
  colours.value = seen.found.slice(0, 24)
  palette.value = seen.palette
}

async function read(): Promise<void> {
  isReading.value = true
  const reading = await paletteBeside(pasted.value)
    .catch((error: unknown) => {
      if (isStopped(error)) return null
      throw error
    })
    .finally(() => (isReading.value = false))
  // Something else was pasted meanwhile.
  if (reading === null) return
  problem.value = reading.ok ? '' : reading.message
  colours.value = reading.ok ? reading.found.slice(0, 24) : []
  palette.value = reading.ok ? reading.palette : null
}

async function keep(): Promise<void> {
  if (site.value === null || palette.value === null) return
  const { id, name, palette: before } = site.value
  const { colours, manner } = palette.value
  const taken: Palette = { ...palette.value, colours: [...colours], ...(manner && { manner: { ...manner } }) }
  await workspace.changeSite(id, { palette: taken })
  isOpen.value = false
  notices.done(`The colours of ${name} are kept with the site.`, () => workspace.changeSite(id, { palette: before }))
}

function wear(): void {
  const palette = site.value?.palette ?? quietPalette
  const isLanding = workspace.isPage(form.id)
  draft.change('Take the site’s colours and type', 'site colours', (changed) => {
    changed.look = inManner(changed.look, palette.manner)
    changed.look.colours = coloursFrom(palette, isLanding ? 'page' : 'tint')
    // On the site itself a form inherits its font; a page of ours needs one that is like it.
    changed.look.type.font = isLanding && palette.font !== '' ? nearestFont(palette.font) : 'site'
  })
}
</script>

<template>
  <div class="site">
    <div class="row">
      <ElButton v-if="site?.palette" size="small" @click="wear">Take the site’s colours and type</ElButton>
      <ElButton size="small" text @click="isOpen = !isOpen">{{
        site?.palette ? 'Read them anew' : 'Read colours from the site'
      }}</ElButton>
    </div>
    <template v-if="isOpen">
      <div v-if="hasAddress">
        <ElButton size="small" :loading="reading.isReading.value" @click="readAddress"
          >Read them from {{ siteHost(site!.address) }}</ElButton
        >
      </div>
      <p v-if="reading.problem.value" class="problem small" role="alert">
        {{ reading.problem.value }} Paste the page’s source instead.
      </p>
      <Labelled label="Or paste the page’s source, or its style sheet">
        <ElInput v-model="pasted" type="textarea" class="code" :rows="4" spellcheck="false" @change="read" />
      </Labelled>
      <div><ElButton size="small" :disabled="pasted.trim() === ''" @click="read">Find the colours</ElButton></div>
      <p v-if="isReading" class="quiet small" role="status">The colours are being read …</p>
      <p v-else-if="problem" class="problem small" role="alert">{{ problem }}</p>
      <template v-if="palette">
        <div v-for="role in roles" :key="role.key" class="field">
          <span class="name">{{ role.name }}</span>
          <Swatches
            :name="role.name"
            :colours="
              colours.map(({ colour, uses }) => ({
                colour,
                hint: `${colour}, used ${uses === 1 ? 'once' : `${uses} times`}`,
              }))
            "
            :chosen="palette[role.key]"
            @choose="palette[role.key] = $event"
          />
        </div>
        <p v-if="palette.font" class="quiet small">
          Its text is set in {{ palette.font }}; forms set in the site’s own font take that over.
        </p>
        <div>
          <ElButton size="small" type="primary" @click="keep">Keep them for {{ site?.name ?? 'the site' }}</ElButton>
        </div>
      </template>
    </template>
  </div>
</template>

<style scoped>
.site {
  display: grid;
  gap: var(--gap-2);
  margin-top: var(--gap-3);
}
</style>
