import { styled, Text } from '@tamagui/core';

/** Running text, 16 px. */
export const Body = styled(Text, { fontFamily: '$text', fontSize: 16, lineHeight: 22, color: '$ink' });
/** The quiet second line under a label, 15 px: read in a dim panel at arm's length. */
export const Second = styled(Text, { fontFamily: '$text', fontSize: 15, lineHeight: 19, color: '$soft' });
export const Strong = styled(Text, { fontFamily: '$bold', fontSize: 16, lineHeight: 22, color: '$ink' });
export const Title = styled(Text, { fontFamily: '$bold', fontSize: 24, lineHeight: 29, color: '$ink', role: 'heading' });
/** Large tabular figure. */
export const Figure = styled(Text, { fontFamily: '$mono', fontSize: 23, lineHeight: 28, color: '$ink', whiteSpace: 'nowrap' });
/** Codes and small figures. */
export const Mono = styled(Text, { fontFamily: '$mono', fontSize: 15, lineHeight: 20, color: '$ink' });
/** Something to touch that reads like a sentence's own way out. */
export const LinkText = styled(Text, {
  fontFamily: '$bold',
  fontSize: 16,
  lineHeight: 24,
  color: '$plum',
  borderBottomWidth: 2,
  borderColor: '$plum',
});
