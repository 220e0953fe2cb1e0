import { useId, type ReactNode } from 'react';
import * as Aria from 'react-aria-components';
import styled, { css } from 'styled-components';

const buttonBase = css`
  font: inherit;
  border-radius: 9px;
  border: 1px solid ${(p) => p.theme.line};
  padding: 6px 12px;
  min-height: 32px;
  cursor: pointer;
  background: ${(p) => p.theme.raised};
  color: ${(p) => p.theme.ink};
  display: inline-flex;
  align-items: center;
  gap: 8px;
  &[data-hovered] {
    border-color: ${(p) => p.theme.glaze};
  }
  &[data-disabled] {
    opacity: 0.55;
    cursor: default;
  }
`;
export const Button = styled(Aria.Button)`
  ${buttonBase}
`;
export const MainButton = styled(Aria.Button)`
  ${buttonBase}
  background: ${(p) => p.theme.glazeInk};
  border-color: ${(p) => p.theme.glazeInk};
  color: ${(p) => p.theme.paper};
  font-weight: 600;
`;
export const QuietButton = styled(Aria.Button)`
  ${buttonBase}
  background: transparent;
  border-color: transparent;
  padding: 4px 8px;
  min-height: 28px;
`;
export const DangerButton = styled(Aria.Button)`
  ${buttonBase}
  color: ${(p) => p.theme.kiln};
`;

export const Kbd = styled.kbd`
  font-size: 11px;
  padding: 1px 5px;
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 5px;
  background: ${(p) => p.theme.raised};
  color: ${(p) => p.theme.mute};
  white-space: nowrap;
`;

const Field = styled.div`
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
  gap: 2px 8px;
  margin: 8px 0;
`;
const inputStyle = css`
  font: inherit;
  color: ${(p) => p.theme.ink};
  background: ${(p) => p.theme.raised};
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 7px;
  padding: 4px 8px;
  min-height: 28px;
`;
const Input = styled(Aria.Input)`
  ${inputStyle}
  width: 100%;
`;
const NumberBox = styled(Aria.Input)`
  ${inputStyle}
  font-family: 'Sometype Mono Variable', monospace;
  font-size: 12px;
  width: 88px;
  text-align: right;
`;
const Wide = styled(Aria.TextField)`
  display: grid;
  gap: 4px;
  margin: 8px 0;
`;

export function TextBox({
  label,
  value,
  onChange,
  autoFocus,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  autoFocus?: boolean;
}): ReactNode {
  return (
    <Wide value={value} onChange={onChange} autoFocus={autoFocus} maxLength={120}>
      <Aria.Label>{label}</Aria.Label>
      <Input />
    </Wide>
  );
}

interface NumberProps {
  label: string;
  value: number;
  onChange: (value: number) => void;
  min?: number;
  max?: number;
  step?: number;
  unit?: string;
  digits?: number;
}
/** A typed number with its unit. */
// prettier-ignore
export function NumberBoxField({ label, value, onChange, onEmpty, min, max, step, unit, digits = 2 }: NumberProps & { onEmpty?: () => void }): ReactNode {
  return (
    <Aria.NumberField
      value={value}
      onChange={(v) => (Number.isFinite(v) ? onChange(v) : onEmpty?.())}
      minValue={min}
      maxValue={max}
      step={step}
      formatOptions={{ maximumFractionDigits: digits, useGrouping: true }}
      isWheelDisabled
    >
      <Field>
        <Aria.Label>{unit ? `${label} (${unit})` : label}</Aria.Label>
        <NumberBox />
      </Field>
    </Aria.NumberField>
  );
}

const SliderRoot = styled(Aria.Slider)`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 8px;
  margin: 8px 0;
  output {
    font-family: 'Sometype Mono Variable', monospace;
    font-size: 12px;
  }
`;
const Track = styled(Aria.SliderTrack)`
  grid-column: 1 / -1;
  height: 20px;
  &::before {
    content: '';
    position: absolute;
    inset: 8px 0;
    border-radius: 2px;
    background: ${(p) => p.theme.line};
  }
`;
const Thumb = styled(Aria.SliderThumb)`
  width: 15px;
  height: 15px;
  top: 10px;
  border-radius: 50%;
  background: ${(p) => p.theme.raised};
  border: 2.5px solid ${(p) => p.theme.glaze};
`;

interface RangeProps extends NumberProps {
  min: number;
  max: number;
  show: (value: number) => string;
}
export function Range({ label, value, onChange, min, max, step, show }: RangeProps): ReactNode {
  return (
    <SliderRoot value={value} onChange={(v) => onChange(v as number)} minValue={min} maxValue={max} step={step}>
      <Aria.Label>{label}</Aria.Label>
      <Aria.SliderOutput>{show(value)}</Aria.SliderOutput>
      <Track>
        <Thumb />
      </Track>
    </SliderRoot>
  );
}

const SwitchRoot = styled(Aria.Switch)`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  margin: 8px 0;
  min-height: 24px;
  cursor: pointer;
  .rail {
    width: 32px;
    height: 18px;
    border-radius: 9px;
    background: ${(p) => p.theme.line};
    border: 1px solid ${(p) => p.theme.mute};
    flex: none;
    position: relative;
  }
  .rail::after {
    content: '';
    position: absolute;
    top: 1px;
    left: 1px;
    width: 14px;
    height: 14px;
    border-radius: 50%;
    background: ${(p) => p.theme.raised};
    border: 1px solid ${(p) => p.theme.mute};
  }
  &[data-selected] .rail {
    background: ${(p) => p.theme.glaze};
    border-color: ${(p) => p.theme.glaze};
  }
  &[data-selected] .rail::after {
    left: 15px;
  }
  &[data-focus-visible] .rail {
    outline: 2px solid ${(p) => p.theme.glaze};
    outline-offset: 2px;
  }
  &[data-focus-visible] {
    outline: none;
  }
`;
export function Toggle({
  label,
  value,
  onChange,
  keys,
}: {
  label: string;
  value: boolean;
  onChange: (v: boolean) => void;
  keys?: string;
}): ReactNode {
  return (
    <SwitchRoot isSelected={value} onChange={onChange}>
      <span>
        {label} {keys && <Kbd aria-hidden>{keys}</Kbd>}
      </span>
      <span className="rail" />
    </SwitchRoot>
  );
}

const ChoiceRoot = styled(Aria.RadioGroup)`
  margin: 8px 0;
  display: grid;
  gap: 4px;
  .options {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
  }
`;
const Option = styled(Aria.Radio)`
  border: 1px solid ${(p) => p.theme.line};
  background: ${(p) => p.theme.raised};
  border-radius: 7px;
  padding: 3px 9px;
  cursor: pointer;
  &[data-selected] {
    background: ${(p) => p.theme.glazeSoft};
    border-color: ${(p) => p.theme.glaze};
    color: ${(p) => p.theme.glazeInk};
    font-weight: 600;
  }
  &[data-hovered] {
    border-color: ${(p) => p.theme.glaze};
  }
`;
interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  onChange: (v: T) => void;
  options: readonly (readonly [T, string])[];
}
/** One of a few plain words. */
export function Choice<T extends string>({ label, value, onChange, options }: ChoiceProps<T>): ReactNode {
  return (
    <ChoiceRoot value={value} onChange={(v) => onChange(v as T)} orientation="horizontal">
      <Aria.Label>{label}</Aria.Label>
      <div className="options">
        {options.map(([key, text]) => (
          <Option key={key} value={key}>
            {text}
          </Option>
        ))}
      </div>
    </ChoiceRoot>
  );
}

const Tint = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin: 8px 0;
  input {
    width: 44px;
    height: 26px;
    padding: 0;
    border: 1px solid ${(p) => p.theme.line};
    border-radius: 6px;
    background: none;
  }
`;
export function ColourBox({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
}): ReactNode {
  const id = useId();
  return (
    <Tint>
      <label htmlFor={id}>{label}</label>
      <input id={id} type="color" value={value} onChange={(e) => onChange(e.target.value)} />
    </Tint>
  );
}
