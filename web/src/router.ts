import { createRouter, createWebHistory } from 'vue-router'
import JobsView from './views/jobs/JobsView.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'jobs', component: JobsView },
    { path: '/job/:job', name: 'job', component: () => import('./views/jobs/JobView.vue'), props: true },
    { path: '/job/:job/now', name: 'now', component: () => import('./views/now/NowView.vue'), props: true },
    {
      path: '/job/:job/waits/:area?',
      name: 'waits',
      component: () => import('./views/now/WaitsView.vue'),
      props: true,
    },
    {
      path: '/job/:job/sheets/:sheet?',
      name: 'sheets',
      component: () => import('./views/sheets/LibraryView.vue'),
      props: true,
    },
    {
      path: '/job/:job/sheet/:like/:area?',
      name: 'sheet',
      component: () => import('./views/sheets/SheetView.vue'),
      props: true,
    },
    {
      path: '/job/:job/materials/:area?',
      name: 'materials',
      component: () => import('./views/materials/MaterialsView.vue'),
      props: true,
    },
    {
      path: '/job/:job/cut/:area',
      name: 'cut',
      component: () => import('./views/cut/CutView.vue'),
      props: true,
    },
    {
      path: '/job/:job/area/:area/:stage?',
      name: 'area',
      component: () => import('./views/area/AreaView.vue'),
      props: true,
    },
    { path: '/pair', name: 'pair', component: () => import('./views/devices/PairView.vue') },
    { path: '/devices', name: 'devices', component: () => import('./views/devices/DevicesView.vue') },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
