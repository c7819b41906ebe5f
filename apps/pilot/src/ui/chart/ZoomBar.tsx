import { View } from '@tamagui/core';
import { Pressable } from 'react-native';
import { say } from '@yare/words/pages/ui';
import { Strong } from '../text';

const tools = [
  ['◀', 'left', say.earlier],
  ['−', 'out', say.zoomOut],
  [say.fit, 'fit', say.fitAll],
  ['+', 'in', say.zoomIn],
  ['▶', 'right', say.later],
] as const;
export type ZoomTool = (typeof tools)[number][1];

const button = { height: 48, alignItems: 'center', justifyContent: 'center' } as const;

export interface ZoomBarProps {
  onTool: (tool: ZoomTool) => void;
  pinned: boolean;
  /** there is a cursor that can be pinned */
  canPin: boolean;
  onPin: () => void;
}

/** Zoom, pan and the second cursor by touch. */
export function ZoomBar({ onTool, pinned, canPin, onPin }: ZoomBarProps) {
  const dead = !canPin && !pinned;
  return (
    <View flexDirection="row" borderBottomWidth={1} borderColor="$rule2" role="toolbar">
      {tools.map(([label, tool, name]) => (
        <Pressable key={tool} onPress={() => onTool(tool)} role="button" aria-label={name} style={{ ...button, flex: 1 }}>
          <Strong color="$plum">{label}</Strong>
        </Pressable>
      ))}
      <Pressable onPress={onPin} disabled={dead} role="button" aria-label={say.secondCursor} style={{ ...button, flex: 1.4 }}>
        <Strong color={dead ? '$soft' : '$plum'}>{pinned ? say.unpin : say.pin}</Strong>
      </Pressable>
    </View>
  );
}
