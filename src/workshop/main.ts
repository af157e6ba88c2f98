import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { pairFromAddress } from './exchange'
import { router } from './router'
import './styles/tokens.css'
import './styles/base.css'
import 'element-plus/theme-chalk/base.css'
import 'element-plus/theme-chalk/el-button.css'
import 'element-plus/theme-chalk/el-input.css'
import './styles/element.css'

await pairFromAddress(location, history)
createApp(App).use(createPinia()).use(router).mount('#workshop')
