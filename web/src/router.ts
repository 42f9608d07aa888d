import { createRouter, createWebHistory } from 'vue-router'
import JobView from './views/jobs/JobView.vue'
import NowView from './views/now/NowView.vue'
import SystemView from './views/system/SystemView.vue'
import WaitsView from './views/now/WaitsView.vue'
import LibraryView from './views/sheets/LibraryView.vue'
import SheetView from './views/sheets/SheetView.vue'
import DaysView from './views/days/DaysView.vue'
import CrewsView from './views/days/CrewsView.vue'
import MaterialsView from './views/materials/MaterialsView.vue'
import CutView from './views/cut/CutView.vue'
import AreaView from './views/area/AreaView.vue'
import PairView from './views/devices/PairView.vue'
import DevicesView from './views/devices/DevicesView.vue'
import JobsView from './views/jobs/JobsView.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'jobs', component: JobsView },
    { path: '/job/:job', name: 'job', component: JobView, props: true },
    { path: '/job/:job/now', name: 'now', component: NowView, props: true },
    {
      path: '/job/:job/waits/:area?',
      name: 'waits',
      component: WaitsView,
      props: true,
    },
    { path: '/job/:job/days', name: 'days', component: DaysView, props: true },
    { path: '/job/:job/crews', name: 'crews', component: CrewsView, props: true },
    {
      path: '/job/:job/sheets/:sheet?',
      name: 'sheets',
      component: LibraryView,
      props: true,
    },
    {
      path: '/job/:job/sheet/:like/:area?',
      name: 'sheet',
      component: SheetView,
      props: true,
    },
    {
      path: '/job/:job/system/:system',
      name: 'system',
      component: SystemView,
      props: true,
    },
    {
      path: '/job/:job/materials/:area?',
      name: 'materials',
      component: MaterialsView,
      props: true,
    },
    {
      path: '/job/:job/cut/:area',
      name: 'cut',
      component: CutView,
      props: true,
    },
    {
      path: '/job/:job/area/:area/:stage?',
      name: 'area',
      component: AreaView,
      props: true,
    },
    { path: '/pair', name: 'pair', component: PairView },
    { path: '/devices', name: 'devices', component: DevicesView },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
