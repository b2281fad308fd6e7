import { benchApi } from './benchAnswers'
import { serve } from './serve'

serve(() => benchApi)
