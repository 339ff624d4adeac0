import { Route, Routes } from 'react-router'
import { CameraStage } from '../features/camera/CameraStage'
import { CutStage } from '../features/cut/CutStage'
import { DogScreen } from '../features/dog/DogScreen'
import { KitScreen } from '../features/kit/KitScreen'
import { MarksStage } from '../features/marks/MarksStage'
import { OutlineStage } from '../features/outline/OutlineStage'
import { PhotosStage } from '../features/photos/PhotosStage'
import { Today } from '../features/today/Today'
import { Visit } from './Visit'

export function App() {
  return (
    <Routes>
      <Route index element={<Today />} />
      <Route path="kit" element={<KitScreen />} />
      <Route path="dogs/:dogId" element={<Visit />}>
        <Route index element={<DogScreen />} />
        <Route path="camera" element={<CameraStage />} />
        <Route path="photos" element={<PhotosStage />} />
        <Route path="marks" element={<MarksStage />} />
        <Route path="outline" element={<OutlineStage />} />
        <Route path="cut" element={<CutStage />} />
      </Route>
      <Route path="*" element={<Today />} />
    </Routes>
  )
}
