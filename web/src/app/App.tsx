import { useEffect } from 'react'
import { Route, Routes } from 'react-router'
import { CameraStage } from '../features/camera/CameraStage'
import { CheckStage } from '../features/check/CheckStage'
import { CutStage } from '../features/cut/CutStage'
import { DogScreen } from '../features/dog/DogScreen'
import { Entrance } from '../features/entrance/Entrance'
import { Vouch } from '../features/entrance/Vouch'
import { KitScreen } from '../features/kit/KitScreen'
import { MarksStage } from '../features/marks/MarksStage'
import { NextStage } from '../features/next/NextStage'
import { OutlineStage } from '../features/outline/OutlineStage'
import { PhotosStage } from '../features/photos/PhotosStage'
import { DrillScreen } from '../features/practice/DrillScreen'
import { PracticeScreen } from '../features/practice/PracticeScreen'
import { FirstStart } from '../features/salon/FirstStart'
import { HowFarOff } from '../features/salon/HowFarOff'
import { SalonScreen } from '../features/salon/SalonScreen'
import { Today } from '../features/today/Today'
import { WishesStage } from '../features/wishes/WishesStage'
import { followDayStyle, useDayStyle } from '../shared/days'
import { OutboxBar } from '../outbox/OutboxBar'
import { Caught } from './Caught'
import { KeptBar } from './KeptBar'
import { useSalon } from './useSalon'
import { Visit } from './Visit'

/** The passcode first where it counts, then the first start, then the salon. */
export function App() {
  return (
    <Entrance>
      <div className="flex h-full flex-col">
        <div className="min-h-0 flex-1">
          <Caught>
            <Salon />
          </Caught>
        </div>
        <KeptBar />
        <OutboxBar />
        <Vouch />
      </div>
    </Entrance>
  )
}

function Salon() {
  const salon = useSalon()
  const days = salon.data?.days
  // Read here so that every screen is drawn anew when it changes.
  useDayStyle()
  useEffect(() => {
    if (days) followDayStyle(days)
  }, [days])
  if (salon.data && !salon.data.started) return <FirstStart />
  return (
    <Routes>
      <Route index element={<Today />} />
      <Route path="kit" element={<KitScreen />} />
      <Route path="salon" element={<SalonScreen />} />
      <Route path="salon/how-far-off" element={<HowFarOff />} />
      <Route path="practice" element={<PracticeScreen />} />
      <Route path="practice/:person" element={<PracticeScreen />} />
      <Route path="practice/:person/:drill" element={<DrillScreen />} />
      <Route path="dogs/:dogId" element={<Visit />}>
        <Route index element={<DogScreen />} />
        <Route path="wishes" element={<WishesStage />} />
        <Route path="camera" element={<CameraStage />} />
        <Route path="photos" element={<PhotosStage />} />
        <Route path="marks" element={<MarksStage />} />
        <Route path="outline" element={<OutlineStage />} />
        <Route path="cut" element={<CutStage />} />
        <Route path="check" element={<CheckStage />} />
        <Route path="next" element={<NextStage />} />
      </Route>
      <Route path="*" element={<Today />} />
    </Routes>
  )
}
