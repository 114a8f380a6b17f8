import type { Kit, KitSetup } from '@pace-check/contract';
import { sayStepSource, writeRecipe, type Recipe } from '@pace-check/core';
import { useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { useKit } from '../../../api/queries';
import { day } from '../../../ui/figures';
import { INK, Paper } from '../../../ui/Paper';
import { Stack } from '../../../ui/parts';
import { Failed, Loading, Notice } from '../../../ui/states';
import { DAY } from '../../../ui/theme';
import { Body, Heading, Quiet } from '../../../ui/words';

/** A setup to be followed by somebody else, on one page: what to mind, what to do, what is set, how to undo it. */
export function RecipeScreen({ id }: { id: string }): ReactNode {
  const { data: kit, error, refetch } = useKit();
  if (error) return <Failed error={error} retry={() => void refetch()} />;
  if (!kit) return <Loading rows={6} height={40} label="Loading recipe" />;
  const setup = kit.setups.find((one) => one.id === id);
  if (!setup)
    return (
      <Notice title="Not found in Kit">
        This setup no longer exists. Go back to Kit and search for its title.
      </Notice>
    );
  return <RecipePage kit={kit} setup={setup} />;
}

function RecipePage({ kit, setup }: { kit: Kit; setup: KitSetup }): ReactNode {
  const router = useRouter();
  const recipe = writeRecipe(setup.whole, setup.facts.steps ?? []);
  const title = kit.titles.find((one) => one.id === setup.titleId);
  return (
    <Paper onBack={() => router.navigate(`/kit/title/${setup.titleId}`)}>
      <Heading level={1} style={{ color: INK }}>{`${title?.name ?? 'Title'}: ${setup.name}`}</Heading>
      {setup.facts.from === undefined ? null : (
        <Quiet style={{ color: INK }}>{`Based on “${setup.facts.from}”; all values are listed here.`}</Quiet>
      )}
      <Cautions recipe={recipe} />
      <Steps recipe={recipe} />
      <Part title="Settings of this setup">
        {recipe.set.length === 0 ? <Body style={{ color: INK }}>Nothing recorded.</Body> : null}
        <Stack role="list" aria-label="Settings of this setup" gap={2}>
          {recipe.set.map((line) => (
            <Line key={line}>{line}</Line>
          ))}
        </Stack>
      </Part>
      {recipe.undo.length > 0 ? (
        <Part title="How to undo it (last step first)">
          <Stack role="list" aria-label="How to undo it" gap={2}>
            {recipe.undo.map((line) => (
              <Line key={line}>{line}</Line>
            ))}
          </Stack>
        </Part>
      ) : null}
      {setup.facts.notes ? (
        <Part title="Notes">
          <Body style={{ color: INK }}>{setup.facts.notes}</Body>
        </Part>
      ) : null}
    </Paper>
  );
}

function Cautions({ recipe: { cautions } }: { recipe: Recipe }): ReactNode {
  if (cautions.length === 0) return null;
  return (
    <Stack
      gap={6}
      padding={12}
      role="note"
      aria-label="Cautions"
      style={{ borderWidth: 2, borderColor: DAY.action, borderRadius: 6 }}
    >
      <Heading level={2} style={{ color: INK }}>
        Before you begin
      </Heading>
      {cautions.map(({ need, says }) => (
        <Body key={need} style={{ color: INK }}>
          {says}
        </Body>
      ))}
      <Body style={{ color: INK }}>
        Follow the maker’s instructions and local rules first. Data on the device may be lost.
      </Body>
    </Stack>
  );
}

function Steps({ recipe: { steps } }: { recipe: Recipe }): ReactNode {
  return (
    <Part title="What to do">
      {steps.length === 0 ? (
        <Body style={{ color: INK }}>No steps recorded. Apply the settings below.</Body>
      ) : null}
      <Stack role="list" aria-label="Steps" gap={8}>
        {steps.map((step, i) => {
          const from = sayStepSource({
            ...step,
            dated: step.dated === null ? null : day(`${step.dated}T12:00`),
          });
          return (
            <Stack key={i} role="listitem" gap={2}>
              <Body style={{ color: INK }}>{`${i + 1}. ${step.says}`}</Body>
              {from === '' ? null : <Quiet style={{ color: INK }}>{from}</Quiet>}
            </Stack>
          );
        })}
      </Stack>
    </Part>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }): ReactNode {
  return (
    <Stack gap={4} style={{ marginTop: 8 }}>
      <Heading level={2} style={{ color: INK }}>
        {title}
      </Heading>
      {children}
    </Stack>
  );
}

const Line = ({ children }: { children: string }): ReactNode => (
  <Body role="listitem" style={{ color: INK }}>
    {children}
  </Body>
);
