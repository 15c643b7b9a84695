import type { StageScreen } from '../registry'
import OrderStage from './OrderStage.vue'

export default { key: 'order', component: OrderStage } satisfies StageScreen
