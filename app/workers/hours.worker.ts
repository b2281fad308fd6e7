import { hoursApi } from './hoursAnswers'
import { serve } from './serve'

serve(hoursApi)
