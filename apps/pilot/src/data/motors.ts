import { useMutation, useQuery } from '@tanstack/react-query';
import type { MotorEdit, SavedMotor } from '@yare/contract';
import { api } from './api';
import { refresh, send } from './client';

const key = ['motors'] as const;
export const useMotors = (wanted: boolean) => useQuery({ queryKey: key, queryFn: () => api<SavedMotor[]>('/motors'), enabled: wanted });
export const useSaveMotor = () =>
  useMutation({ mutationFn: (motor: Omit<MotorEdit, 'author'>) => send<SavedMotor>('POST', '/motors', motor), ...refresh(key) });
