'use client';
/** Projects, each with a picture, who is at work there, and how much was made in the last half year. */
import { plural } from '@ovrel/core/plural';
import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import type { Tile } from '../../contract/home.ts';
import { Ago } from '../frame/Ago.tsx';
import { linkTo } from '../../contract/operation.ts';
import { api } from '../../contract/operations/index.ts';

interface Props {
  readonly projects: readonly Tile[];
  readonly mayMake: boolean;
  readonly mayLook: boolean;
  readonly onMake: () => void;
}

export function ProjectTiles({ projects, mayMake, mayLook, onMake }: Props): React.ReactNode {
  if (projects.length === 0)
    return (
      <div className="ov-empty">
        <p>
          {mayLook
            ? 'There is no project yet. A project holds the folders and files of one piece of work.'
            : 'Nothing is open to you yet. Whoever invited you can open a project or a folder to you.'}
        </p>
        {mayMake ? (
          <Button onClick={onMake}>Make the first project</Button>
        ) : (
          mayLook && <p>A lead or an administrator can make one.</p>
        )}
      </div>
    );
  return (
    <ul className="ov-tiles">
      {projects.map((project) => (
        <li key={project.id}>
          <ProjectTile project={project} />
        </li>
      ))}
    </ul>
  );
}

function ProjectTile({ project }: { readonly project: Tile }): React.ReactNode {
  const { id, name, files, changedAt, picture, working, activity } = project;
  return (
    <article className="ov-tile">
      <Link href={`/projects/${id}`} className="ov-tile-picture" tabIndex={-1} aria-hidden="true">
        {picture ? (
          <img
            src={linkTo(api.versions.thumbnail, { versionId: picture.versionId, query: { side: '320' } })}
            alt=""
            loading="lazy"
          />
        ) : (
          <i className="bi bi-folder2" />
        )}
      </Link>
      <div className="ov-tile-words">
        <h3>
          <Link href={`/projects/${id}`}>{name}</Link>
        </h3>
        <p className="ov-quiet">
          {plural(files, 'file')}
          {changedAt === null ? ', nothing checked in yet' : <Ago at={changedAt} before=", changed" />}
        </p>
        <p>{sayWorking(working)}</p>
        <Activity weeks={activity} />
      </div>
    </article>
  );
}

function sayWorking(working: Tile['working']): string {
  const holding = working.filter(({ how }) => how === 'holds').map((p) => p.name);
  const looking = working.filter(({ how }) => how === 'looks').map((p) => p.name);
  return [
    holding.length > 0 ? `${holding.join(', ')} ${holding.length === 1 ? 'holds' : 'hold'} files.` : '',
    looking.length > 0 ? `${looking.join(', ')} ${looking.length === 1 ? 'is' : 'are'} looking.` : '',
  ]
    .filter(Boolean)
    .join(' ');
}

const BAR = 5;
const HEIGHT = 26;

/** Versions a week, the last is this one. */
function Activity({ weeks }: { readonly weeks: readonly number[] }): React.ReactNode {
  const most = Math.max(1, ...weeks);
  const total = weeks.reduce((sum, n) => sum + n, 0);
  return (
    <svg
      className="ov-activity"
      viewBox={`0 0 ${weeks.length * BAR} ${HEIGHT}`}
      preserveAspectRatio="none"
      role="img"
      aria-label={`${plural(total, 'version')} in the last ${weeks.length} weeks, ${weeks.at(-1) ?? 0} this week`}
    >
      {weeks.map((n, k) => {
        const height = n === 0 ? 1 : Math.max(3, (n / most) * HEIGHT);
        return <rect key={k} x={k * BAR} y={HEIGHT - height} width={BAR - 1} height={height} data-some={n > 0} />;
      })}
    </svg>
  );
}
