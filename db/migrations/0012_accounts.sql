-- Up Migration

-- Who has left can't sign in; versions, notes and comments stay under their name.
alter table person
  add column state text not null default 'active' check (state in ('active', 'deactivated', 'deleted')),
  add column password_set_at timestamptz not null default now(),
  -- Set by somebody else: its holder is asked for one of their own before anything else.
  add column password_is_temporary boolean not null default false,
  -- What an authenticator app and this server both know (RFC 6238), base32; holds once a code has proved it.
  add column second_factor text,
  add column second_factor_at timestamptz,
  -- The step of time of the last code, so that none opens twice.
  add column second_factor_step bigint not null default 0;

alter table session
  add column id uuid not null default gen_random_uuid(),
  add column origin text not null default '';
-- Nobody has counted until now when a session was last used.
update session set seen_at = now();
create unique index session_id on session (id);
create index session_person on session (person_id);

-- Each opens once, in place of the second factor.
create table recovery_code (
  person_id uuid not null references person on delete cascade,
  code_hash bytea not null,
  used_at   timestamptz,
  primary key (person_id, code_hash)
);

-- Down Migration

drop table recovery_code;
drop index session_person, session_id;
alter table session drop column id, drop column origin;
alter table person
  drop column state, drop column password_set_at, drop column password_is_temporary,
  drop column second_factor, drop column second_factor_at, drop column second_factor_step;
