import { useState } from 'react';
import { OBTAINED, type KeptKit, type Obtained } from '@/core/sitting/kits/keptKit';
import { Labelled, TextInput } from '@/ui/controls/fields';
import { sameWords, Select } from '@/ui/controls/Select';

const HOW = [['', 'not said'] as const, ...sameWords(OBTAINED)];

/** What a kit is called, how it came and what it cost. */
export function KitFacts({ kit, onChange }: { kit: KeptKit; onChange: (kit: KeptKit) => void }) {
  const [amount, setAmount] = useState(kit.price ? String(kit.price.amount) : '');
  const [currency, setCurrency] = useState(kit.price?.currency ?? '');
  const bad = amount.trim() !== '' && !(Number(amount.replace(',', '.')) >= 0);

  function setPrice(amountText: string, currencyText: string) {
    setAmount(amountText);
    setCurrency(currencyText);
    const value = Number(amountText.replace(',', '.'));
    const { price: _, ...rest } = kit;
    const known = amountText.trim() !== '' && value >= 0;
    onChange(known ? { ...rest, price: { amount: value, currency: currencyText.trim() || 'EUR' } } : (rest as KeptKit));
  }

  return (
    <>
      <div className="flex gap-3 flex-wrap items-end mt-3">
        <Labelled words="Name">
          <TextInput
            className="w-[190px]"
            value={kit.name ?? ''}
            onChange={({ target }) => onChange({ ...kit, name: target.value })}
          />
        </Labelled>
        <Labelled words="Maker">
          <TextInput
            className="w-[160px]"
            value={kit.maker ?? ''}
            onChange={({ target }) => onChange({ ...kit, maker: target.value })}
          />
        </Labelled>
        <Labelled words="How obtained">
          <Select<Obtained | ''>
            className="w-[120px]"
            value={kit.obtained ?? ''}
            options={HOW}
            onChange={(chosen) => onChange({ ...kit, obtained: chosen === '' ? undefined : chosen })}
          />
        </Labelled>
        <Labelled words="Price of the kit">
          <TextInput
            className="w-[96px] text-right"
            invalid={bad}
            value={amount}
            onChange={({ target }) => setPrice(target.value, currency)}
          />
        </Labelled>
        <Labelled words="Currency">
          <TextInput
            className="w-[70px]"
            value={currency}
            placeholder="EUR"
            maxLength={8}
            onChange={({ target }) => setPrice(amount, target.value)}
          />
        </Labelled>
      </div>
      {bad && <p className="text-warning mt-1">The kit’s price is a number; it is not kept like this.</p>}
    </>
  );
}
