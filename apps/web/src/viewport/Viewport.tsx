import { Canvas, useFrame, useThree } from '@react-three/fiber';
import { useEffect, useRef, type ReactNode } from 'react';
import type { PerspectiveCamera } from 'three';
import styled from 'styled-components';
import type { SceneView } from './SceneView';

const Box = styled.div`
  position: absolute;
  inset: 0;
  background: linear-gradient(${(p) => p.theme.viewTop}, ${(p) => p.theme.viewBottom});
  touch-action: none;
  canvas {
    display: block;
  }
`;

interface Props {
  /** made once, when the canvas is there to be drawn on */
  onReady: (invalidate: () => void) => SceneView;
  onFrame: () => void;
}

/** The picture of the model: three.js by react-three-fiber, a frame only when something asks for one. */
export function Viewport({ onReady, onFrame }: Props): ReactNode {
  return (
    <Box>
      <Canvas
        frameloop="demand"
        dpr={[1, 2]}
        gl={{ alpha: true, antialias: true, powerPreference: 'high-performance' }}
        flat
        linear
      >
        <Scene onReady={onReady} onFrame={onFrame} />
      </Canvas>
    </Box>
  );
}

function Scene({ onReady, onFrame }: Props): ReactNode {
  const { scene, invalidate, size, gl } = useThree();
  const view = useRef<SceneView | null>(null);
  useEffect(() => {
    const made = onReady(() => invalidate());
    view.current = made;
    scene.add(made.root);
    return () => {
      scene.remove(made.root);
      made.dispose();
      view.current = null;
    };
  }, [onReady, scene, invalidate]);
  useEffect(() => {
    if (view.current) Object.assign(view.current.camera, { width: size.width, height: size.height });
    invalidate();
  }, [size, invalidate]);
  useFrame(({ camera }) => {
    if (view.current) {
      Object.assign(view.current.camera, { width: size.width, height: size.height });
      view.current.prepare(camera as PerspectiveCamera, gl);
    }
    onFrame();
  });
  return null;
}
