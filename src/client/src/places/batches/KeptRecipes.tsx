import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Recipe } from './recipe';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';
import { recipesQuery, recipeKeep } from './queries';

interface KeptRecipesProps {
  batch: string;
  onTake: (recipe: Recipe) => void;
  onSay: (message: string) => void;
}

/** Keeps the recipe under a name, and takes one that was kept for sheets with the same headings. */
export function KeptRecipes({ batch, onTake, onSay }: KeptRecipesProps) {
  const [name, setName] = useState('');
  const recipes = useQuery(recipesQuery(batch));
  const keep = useMutation({
    ...recipeKeep(batch),
    onSuccess: () => {
      onSay(`Recipe saved as “${name}”. Sheets with the same headings use it automatically.`);
      setName('');
    },
    onError: (error) => onSay(error.message),
  });
  const fitting = recipes.data?.filter((r) => r.fits) ?? [];
  return (
    <form
      className="flex w-44 flex-col gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim()) keep.mutate(name);
      }}
    >
      <FormField label="Save recipe as">
        <input
          className="input"
          aria-label="Name of the recipe"
          placeholder="name, then Enter"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
      </FormField>
      {fitting.length > 0 && (
        <Select
          className="text-xs"
          label="Saved recipes"
          value=""
          onChange={(value) => {
            const kept = fitting.find((r) => r.id === value);
            if (kept) onTake(kept.recipe);
          }}
          options={[['', 'choose a saved one …'], ...fitting.map((r) => [r.id, r.name] as const)]}
        />
      )}
    </form>
  );
}
