-- Written by scripts/tables.py: what the migrations that stand at the end make of an empty database.
-- Bodies of functions name tables that come after them.
SET LOCAL check_function_bodies = false;
CREATE EXTENSION IF NOT EXISTS pg_trgm WITH SCHEMA public;
CREATE TYPE public.procrastinate_job_event_type AS ENUM (
    'deferred',
    'started',
    'deferred_for_retry',
    'failed',
    'succeeded',
    'cancelled',
    'abort_requested',
    'aborted',
    'scheduled',
    'retried'
);
CREATE TYPE public.procrastinate_job_status AS ENUM (
    'todo',
    'doing',
    'succeeded',
    'failed',
    'cancelled',
    'aborting',
    'aborted'
);
CREATE TYPE public.procrastinate_job_to_defer_v1 AS (
	queue_name character varying,
	task_name character varying,
	priority integer,
	lock text,
	queueing_lock text,
	args jsonb,
	scheduled_at timestamp with time zone
);
CREATE FUNCTION public.accounts_happening_stays() RETURNS trigger
    LANGUAGE plpgsql
    AS $$ begin raise exception 'what happened to an account is not changed'; end $$;
CREATE FUNCTION public.procrastinate_cancel_job_v1(job_id bigint, abort boolean, delete_job boolean) RETURNS bigint
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
BEGIN
    IF delete_job THEN
        DELETE FROM procrastinate_jobs
        WHERE id = job_id AND status = 'todo'
        RETURNING id INTO _job_id;
    END IF;
    IF _job_id IS NULL THEN
        IF abort THEN
            UPDATE procrastinate_jobs
            SET abort_requested = true,
                status = CASE status
                    WHEN 'todo' THEN 'cancelled'::procrastinate_job_status ELSE status
                END
            WHERE id = job_id AND status IN ('todo', 'doing')
            RETURNING id INTO _job_id;
        ELSE
            UPDATE procrastinate_jobs
            SET status = 'cancelled'::procrastinate_job_status
            WHERE id = job_id AND status = 'todo'
            RETURNING id INTO _job_id;
        END IF;
    END IF;
    RETURN _job_id;
END;
$$;
CREATE FUNCTION public.procrastinate_defer_jobs_v1(jobs public.procrastinate_job_to_defer_v1[]) RETURNS bigint[]
    LANGUAGE plpgsql
    AS $$
DECLARE
    job_ids bigint[];
BEGIN
    WITH inserted_jobs AS (
        INSERT INTO procrastinate_jobs (queue_name, task_name, priority, lock, queueing_lock, args, scheduled_at)
        SELECT (job).queue_name,
               (job).task_name,
               (job).priority,
               (job).lock,
               (job).queueing_lock,
               (job).args,
               (job).scheduled_at
        FROM unnest(jobs) AS job
        RETURNING id
    )
    SELECT array_agg(id) FROM inserted_jobs INTO job_ids;

    RETURN job_ids;
END;
$$;
CREATE FUNCTION public.procrastinate_defer_periodic_job_v2(_queue_name character varying, _lock character varying, _queueing_lock character varying, _task_name character varying, _priority integer, _periodic_id character varying, _defer_timestamp bigint, _args jsonb) RETURNS bigint
    LANGUAGE plpgsql
    AS $$
DECLARE
	_job_id bigint;
	_defer_id bigint;
BEGIN
    INSERT
        INTO procrastinate_periodic_defers (task_name, periodic_id, defer_timestamp)
        VALUES (_task_name, _periodic_id, _defer_timestamp)
        ON CONFLICT DO NOTHING
        RETURNING id into _defer_id;

    IF _defer_id IS NULL THEN
        RETURN NULL;
    END IF;

    UPDATE procrastinate_periodic_defers
        SET job_id = (
            SELECT COALESCE((
                SELECT unnest(procrastinate_defer_jobs_v1(
                    ARRAY[
                        ROW(
                            _queue_name,
                            _task_name,
                            _priority,
                            _lock,
                            _queueing_lock,
                            _args,
                            NULL::timestamptz
                        )
                    ]::procrastinate_job_to_defer_v1[]
                ))
            ), NULL)
        )
        WHERE id = _defer_id
        RETURNING job_id INTO _job_id;

    DELETE
        FROM procrastinate_periodic_defers
        USING (
            SELECT id
            FROM procrastinate_periodic_defers
            WHERE procrastinate_periodic_defers.task_name = _task_name
            AND procrastinate_periodic_defers.periodic_id = _periodic_id
            AND procrastinate_periodic_defers.defer_timestamp < _defer_timestamp
            ORDER BY id
            FOR UPDATE
        ) to_delete
        WHERE procrastinate_periodic_defers.id = to_delete.id;

    RETURN _job_id;
END;
$$;


CREATE TABLE public.procrastinate_jobs (
    id bigint NOT NULL,
    queue_name character varying(128) NOT NULL,
    task_name character varying(128) NOT NULL,
    lock text,
    args jsonb DEFAULT '{}'::jsonb NOT NULL,
    status public.procrastinate_job_status DEFAULT 'todo'::public.procrastinate_job_status NOT NULL,
    scheduled_at timestamp with time zone,
    attempts integer DEFAULT 0 NOT NULL,
    queueing_lock text,
    priority integer DEFAULT 0 NOT NULL,
    abort_requested boolean DEFAULT false NOT NULL,
    worker_id bigint,
    CONSTRAINT check_not_todo_abort_requested CHECK ((NOT ((status = 'todo'::public.procrastinate_job_status) AND (abort_requested = true))))
);
CREATE FUNCTION public.procrastinate_fetch_job_v2(target_queue_names character varying[], p_worker_id bigint) RETURNS public.procrastinate_jobs
    LANGUAGE plpgsql
    AS $$
DECLARE
	found_jobs procrastinate_jobs;
BEGIN
    WITH candidate AS (
        SELECT jobs.*
            FROM procrastinate_jobs AS jobs
            WHERE
                -- reject the job if its lock has earlier or higher priority jobs
                NOT EXISTS (
                    SELECT 1
                        FROM procrastinate_jobs AS other_jobs
                        WHERE
                            jobs.lock IS NOT NULL
                            AND other_jobs.lock = jobs.lock
                            AND (
                                -- job with same lock is already running
                                other_jobs.status = 'doing'
                                OR
                                -- job with same lock is waiting and has higher priority (or same priority but was queued first)
                                (
                                    other_jobs.status = 'todo'
                                    AND (
                                        other_jobs.priority > jobs.priority
                                        OR (
                                        other_jobs.priority = jobs.priority
                                        AND other_jobs.id < jobs.id
                                        )
                                    )
                                )
                            )
                )
                AND jobs.status = 'todo'
                AND (target_queue_names IS NULL OR jobs.queue_name = ANY( target_queue_names ))
                AND (jobs.scheduled_at IS NULL OR jobs.scheduled_at <= now())
            ORDER BY jobs.priority DESC, jobs.id ASC LIMIT 1
            FOR UPDATE OF jobs SKIP LOCKED
    )
    UPDATE procrastinate_jobs
        SET status = 'doing', worker_id = p_worker_id
        FROM candidate
        WHERE procrastinate_jobs.id = candidate.id
        RETURNING procrastinate_jobs.* INTO found_jobs;

 RETURN found_jobs;
END;
$$;
CREATE FUNCTION public.procrastinate_finish_job_v1(job_id bigint, end_status public.procrastinate_job_status, delete_job boolean) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
BEGIN
    IF end_status NOT IN ('succeeded', 'failed', 'aborted') THEN
        RAISE 'End status should be either "succeeded", "failed" or "aborted" (job id: %)', job_id;
    END IF;
    IF delete_job THEN
        DELETE FROM procrastinate_jobs
        WHERE id = job_id AND status IN ('todo', 'doing')
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = end_status,
            abort_requested = false,
            attempts = CASE status
                WHEN 'doing' THEN attempts + 1 ELSE attempts
            END
        WHERE id = job_id AND status IN ('todo', 'doing')
        RETURNING id INTO _job_id;
    END IF;
    IF _job_id IS NULL THEN
        RAISE 'Job was not found or not in "doing" or "todo" status (job id: %)', job_id;
    END IF;
END;
$$;
CREATE FUNCTION public.procrastinate_notify_queue_abort_job_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
    payload TEXT;
BEGIN
    SELECT json_build_object('type', 'abort_job_requested', 'job_id', NEW.id)::text INTO payload;
	PERFORM pg_notify('procrastinate_queue_v1#' || NEW.queue_name, payload);
	PERFORM pg_notify('procrastinate_any_queue_v1', payload);
	RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_notify_queue_job_inserted_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
DECLARE
    payload TEXT;
BEGIN
    SELECT json_build_object('type', 'job_inserted', 'job_id', NEW.id)::text INTO payload;
	PERFORM pg_notify('procrastinate_queue_v1#' || NEW.queue_name, payload);
	PERFORM pg_notify('procrastinate_any_queue_v1', payload);
	RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_prune_stalled_workers_v1(seconds_since_heartbeat double precision) RETURNS TABLE(worker_id bigint)
    LANGUAGE plpgsql
    AS $$
BEGIN
    RETURN QUERY
    DELETE FROM procrastinate_workers
    WHERE last_heartbeat < NOW() - (seconds_since_heartbeat || 'SECOND')::INTERVAL
    RETURNING procrastinate_workers.id;
END;
$$;
CREATE FUNCTION public.procrastinate_register_worker_v1() RETURNS TABLE(worker_id bigint)
    LANGUAGE plpgsql
    AS $$
BEGIN
    RETURN QUERY
    INSERT INTO procrastinate_workers DEFAULT VALUES
    RETURNING procrastinate_workers.id;
END;
$$;
CREATE FUNCTION public.procrastinate_retry_job_v1(job_id bigint, retry_at timestamp with time zone, new_priority integer, new_queue_name character varying, new_lock character varying) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
    _abort_requested boolean;
BEGIN
    SELECT abort_requested FROM procrastinate_jobs
    WHERE id = job_id AND status = 'doing'
    FOR UPDATE
    INTO _abort_requested;
    IF _abort_requested THEN
        UPDATE procrastinate_jobs
        SET status = 'failed'::procrastinate_job_status
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = 'todo'::procrastinate_job_status,
            attempts = attempts + 1,
            scheduled_at = retry_at,
            priority = COALESCE(new_priority, priority),
            queue_name = COALESCE(new_queue_name, queue_name),
            lock = COALESCE(new_lock, lock)
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    END IF;

    IF _job_id IS NULL THEN
        RAISE 'Job was not found or not in "doing" status (job id: %)', job_id;
    END IF;
END;
$$;
CREATE FUNCTION public.procrastinate_retry_job_v2(job_id bigint, retry_at timestamp with time zone, new_priority integer, new_queue_name character varying, new_lock character varying) RETURNS void
    LANGUAGE plpgsql
    AS $$
DECLARE
    _job_id bigint;
    _abort_requested boolean;
    _current_status procrastinate_job_status;
BEGIN
    SELECT status, abort_requested FROM procrastinate_jobs
    WHERE id = job_id AND status IN ('doing', 'failed')
    FOR UPDATE
    INTO _current_status, _abort_requested;
    IF _current_status = 'doing' AND _abort_requested THEN
        UPDATE procrastinate_jobs
        SET status = 'failed'::procrastinate_job_status
        WHERE id = job_id AND status = 'doing'
        RETURNING id INTO _job_id;
    ELSE
        UPDATE procrastinate_jobs
        SET status = 'todo'::procrastinate_job_status,
            attempts = attempts + 1,
            scheduled_at = retry_at,
            priority = COALESCE(new_priority, priority),
            queue_name = COALESCE(new_queue_name, queue_name),
            lock = COALESCE(new_lock, lock)
        WHERE id = job_id AND status IN ('doing', 'failed')
        RETURNING id INTO _job_id;
    END IF;

    IF _job_id IS NULL THEN
        RAISE 'Job was not found or has an invalid status to retry (job id: %)', job_id;
    END IF;

END;
$$;
CREATE FUNCTION public.procrastinate_trigger_abort_requested_events_procedure_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type)
        VALUES (NEW.id, 'abort_requested'::procrastinate_job_event_type);
    RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_trigger_function_scheduled_events_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type, at)
        VALUES (NEW.id, 'scheduled'::procrastinate_job_event_type, NEW.scheduled_at);

	RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_trigger_function_status_events_insert_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO procrastinate_events(job_id, type)
        VALUES (NEW.id, 'deferred'::procrastinate_job_event_type);
	RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_trigger_function_status_events_update_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    WITH t AS (
        SELECT CASE
            WHEN OLD.status = 'todo'::procrastinate_job_status
                AND NEW.status = 'doing'::procrastinate_job_status
                THEN 'started'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'todo'::procrastinate_job_status
                THEN 'deferred_for_retry'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'failed'::procrastinate_job_status
                THEN 'failed'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'succeeded'::procrastinate_job_status
                THEN 'succeeded'::procrastinate_job_event_type
            WHEN OLD.status = 'todo'::procrastinate_job_status
                AND (
                    NEW.status = 'cancelled'::procrastinate_job_status
                    OR NEW.status = 'failed'::procrastinate_job_status
                    OR NEW.status = 'succeeded'::procrastinate_job_status
                )
                THEN 'cancelled'::procrastinate_job_event_type
            WHEN OLD.status = 'doing'::procrastinate_job_status
                AND NEW.status = 'aborted'::procrastinate_job_status
                THEN 'aborted'::procrastinate_job_event_type
            WHEN OLD.status = 'failed'::procrastinate_job_status
                AND NEW.status = 'todo'::procrastinate_job_status
                THEN 'retried'::procrastinate_job_event_type
            ELSE NULL
        END as event_type
    )
    INSERT INTO procrastinate_events(job_id, type)
        SELECT NEW.id, t.event_type
        FROM t
        WHERE t.event_type IS NOT NULL;
	RETURN NEW;
END;
$$;
CREATE FUNCTION public.procrastinate_unlink_periodic_defers_v1() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    UPDATE procrastinate_periodic_defers
    SET job_id = NULL
    WHERE job_id = OLD.id;
    RETURN OLD;
END;
$$;
CREATE FUNCTION public.procrastinate_unregister_worker_v1(worker_id bigint) RETURNS void
    LANGUAGE plpgsql
    AS $$
BEGIN
    DELETE FROM procrastinate_workers
    WHERE id = worker_id;
END;
$$;
CREATE FUNCTION public.procrastinate_update_heartbeat_v1(worker_id bigint) RETURNS void
    LANGUAGE plpgsql
    AS $$
BEGIN
    UPDATE procrastinate_workers
    SET last_heartbeat = NOW()
    WHERE id = worker_id;
END;
$$;
CREATE TABLE public.accounts_accountinvitation (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    sha256 character varying(64) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    until timestamp with time zone NOT NULL,
    used_at timestamp with time zone,
    ended_at timestamp with time zone,
    made_by_id bigint
);
ALTER TABLE public.accounts_accountinvitation ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_accountinvitation_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.accounts_happening (
    id bigint NOT NULL,
    what character varying(20) NOT NULL,
    at timestamp with time zone NOT NULL,
    keeper_id bigint NOT NULL
);
ALTER TABLE public.accounts_happening ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_happening_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.accounts_keeper (
    id bigint NOT NULL,
    password character varying(128) NOT NULL,
    last_login timestamp with time zone,
    is_superuser boolean NOT NULL,
    username character varying(150) NOT NULL,
    first_name character varying(150) NOT NULL,
    last_name character varying(150) NOT NULL,
    email character varying(254) NOT NULL,
    is_staff boolean NOT NULL,
    is_active boolean NOT NULL,
    date_joined timestamp with time zone NOT NULL,
    temperature_unit character varying(4) NOT NULL,
    length_unit character varying(2) NOT NULL,
    mass_unit character varying(2) NOT NULL,
    volume_unit character varying(3) NOT NULL,
    decimal_mark character varying(1) NOT NULL,
    links_made integer NOT NULL,
    letters character varying(8) NOT NULL,
    sits boolean NOT NULL,
    language character varying(8) NOT NULL,
    CONSTRAINT accounts_keeper_links_made_check CHECK ((links_made >= 0))
);
CREATE TABLE public.accounts_keeper_groups (
    id bigint NOT NULL,
    keeper_id bigint NOT NULL,
    group_id integer NOT NULL
);
ALTER TABLE public.accounts_keeper_groups ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_keeper_groups_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
ALTER TABLE public.accounts_keeper ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_keeper_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.accounts_keeper_user_permissions (
    id bigint NOT NULL,
    keeper_id bigint NOT NULL,
    permission_id integer NOT NULL
);
ALTER TABLE public.accounts_keeper_user_permissions ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_keeper_user_permissions_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.accounts_night (
    id bigint NOT NULL,
    task character varying(40) NOT NULL,
    at timestamp with time zone NOT NULL
);
ALTER TABLE public.accounts_night ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_night_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.accounts_signedin (
    id bigint NOT NULL,
    session character varying(40) NOT NULL,
    browser character varying(40) NOT NULL,
    since timestamp with time zone NOT NULL,
    seen_at timestamp with time zone NOT NULL,
    keeper_id bigint NOT NULL
);
ALTER TABLE public.accounts_signedin ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_signedin_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.accounts_try (
    id bigint NOT NULL,
    name character varying(64) NOT NULL,
    address character varying(64) NOT NULL,
    at timestamp with time zone NOT NULL,
    good boolean NOT NULL
);
ALTER TABLE public.accounts_try ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.accounts_try_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.api_answered (
    id bigint NOT NULL,
    key character varying(80) NOT NULL,
    asked character varying(64) NOT NULL,
    status smallint NOT NULL,
    body jsonb NOT NULL,
    at timestamp with time zone NOT NULL,
    token_id bigint NOT NULL,
    CONSTRAINT api_answered_status_check CHECK ((status >= 0))
);
ALTER TABLE public.api_answered ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.api_answered_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.api_delivery (
    id bigint NOT NULL,
    kind character varying(30) NOT NULL,
    about bigint NOT NULL,
    body jsonb NOT NULL,
    made_at timestamp with time zone NOT NULL,
    due_at timestamp with time zone,
    tries smallint NOT NULL,
    taken_at timestamp with time zone,
    webhook_id bigint NOT NULL,
    CONSTRAINT api_delivery_tries_check CHECK ((tries >= 0))
);
ALTER TABLE public.api_delivery ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.api_delivery_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.api_token (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    sha256 character varying(64) NOT NULL,
    scopes jsonb NOT NULL,
    made_at timestamp with time zone NOT NULL,
    used_at timestamp with time zone,
    ended_at timestamp with time zone,
    allowance double precision NOT NULL,
    counted_at timestamp with time zone,
    made_by_id bigint NOT NULL,
    room_id bigint NOT NULL
);
ALTER TABLE public.api_token ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.api_token_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.api_webhook (
    id bigint NOT NULL,
    address character varying(300) NOT NULL,
    tells jsonb NOT NULL,
    seed character varying(64) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    seen bigint NOT NULL,
    seen_notice bigint NOT NULL,
    failures integer NOT NULL,
    answered_at timestamp with time zone,
    fault character varying(200) NOT NULL,
    made_by_id bigint NOT NULL,
    room_id bigint NOT NULL,
    CONSTRAINT api_webhook_failures_check CHECK ((failures >= 0))
);
ALTER TABLE public.api_webhook ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.api_webhook_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.archive_archivefile (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    name character varying(120) NOT NULL,
    state character varying(10) NOT NULL,
    rows bigint NOT NULL,
    done bigint NOT NULL,
    failed character varying(200) NOT NULL,
    author_id bigint NOT NULL,
    room_id bigint,
    upload_id bigint,
    CONSTRAINT archive_archivefile_done_check CHECK ((done >= 0)),
    CONSTRAINT archive_archivefile_rows_check CHECK ((rows >= 0))
);
ALTER TABLE public.archive_archivefile ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.archive_archivefile_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.archive_deletion (
    id bigint NOT NULL,
    asked_at timestamp with time zone NOT NULL,
    due_on date NOT NULL,
    animal_id bigint,
    asked_by_id bigint,
    habitat_id bigint,
    keeper_id bigint,
    room_id bigint
);
ALTER TABLE public.archive_deletion ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.archive_deletion_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.auth_group (
    id integer NOT NULL,
    name character varying(150) NOT NULL
);
ALTER TABLE public.auth_group ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_group_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.auth_group_permissions (
    id bigint NOT NULL,
    group_id integer NOT NULL,
    permission_id integer NOT NULL
);
ALTER TABLE public.auth_group_permissions ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_group_permissions_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.auth_permission (
    id integer NOT NULL,
    name character varying(255) NOT NULL,
    content_type_id integer NOT NULL,
    codename character varying(100) NOT NULL
);
ALTER TABLE public.auth_permission ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.auth_permission_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.axes_accessattempt (
    id integer NOT NULL,
    user_agent character varying(255) NOT NULL,
    ip_address inet,
    username character varying(255),
    http_accept character varying(1025) NOT NULL,
    path_info character varying(255) NOT NULL,
    attempt_time timestamp with time zone NOT NULL,
    get_data text NOT NULL,
    post_data text NOT NULL,
    failures_since_start integer NOT NULL,
    CONSTRAINT axes_accessattempt_failures_since_start_check CHECK ((failures_since_start >= 0))
);
ALTER TABLE public.axes_accessattempt ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.axes_accessattempt_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.axes_accessattemptexpiration (
    access_attempt_id integer NOT NULL,
    expires_at timestamp with time zone NOT NULL
);
CREATE TABLE public.axes_accessfailurelog (
    id integer NOT NULL,
    user_agent character varying(255) NOT NULL,
    ip_address inet,
    username character varying(255),
    http_accept character varying(1025) NOT NULL,
    path_info character varying(255) NOT NULL,
    attempt_time timestamp with time zone NOT NULL,
    locked_out boolean NOT NULL
);
ALTER TABLE public.axes_accessfailurelog ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.axes_accessfailurelog_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.axes_accesslog (
    id integer NOT NULL,
    user_agent character varying(255) NOT NULL,
    ip_address inet,
    username character varying(255),
    http_accept character varying(1025) NOT NULL,
    path_info character varying(255) NOT NULL,
    attempt_time timestamp with time zone NOT NULL,
    logout_time timestamp with time zone,
    session_hash character varying(64) NOT NULL
);
ALTER TABLE public.axes_accesslog ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.axes_accesslog_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.book_entry (
    id bigint NOT NULL,
    species character varying(60) NOT NULL,
    common character varying(80) NOT NULL,
    genus character varying(60) NOT NULL,
    "group" character varying(20) NOT NULL,
    habit character varying(20) NOT NULL,
    zone character varying(10) NOT NULL,
    warmth character varying(10) NOT NULL,
    total_cm double precision NOT NULL,
    length_m double precision NOT NULL,
    width_m double precision NOT NULL,
    height_m double precision NOT NULL,
    water_m3 double precision NOT NULL,
    brief jsonb NOT NULL,
    sha256 character varying(64) NOT NULL,
    own_id bigint
);
ALTER TABLE public.book_entry ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.book_entry_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.book_name (
    id bigint NOT NULL,
    text character varying(120) NOT NULL,
    plain character varying(120) NOT NULL,
    entry_id bigint NOT NULL
);
ALTER TABLE public.book_name ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.book_name_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.book_ownprofile (
    id bigint NOT NULL,
    species character varying(60) NOT NULL,
    common character varying(80) NOT NULL,
    document jsonb NOT NULL,
    sha256 character varying(64) NOT NULL,
    version integer NOT NULL,
    copied_from character varying(60) NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    author_id bigint,
    room_id bigint NOT NULL,
    CONSTRAINT book_ownprofile_version_check CHECK ((version >= 0)),
    CONSTRAINT own_profiles_begin_with_my CHECK (((species)::text ~~ 'my-%'::text))
);
ALTER TABLE public.book_ownprofile ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.book_ownprofile_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.building_build (
    id bigint NOT NULL,
    begun_at timestamp with time zone NOT NULL,
    settings jsonb NOT NULL,
    before jsonb,
    test_passed_at timestamp with time zone,
    test_by character varying(80) NOT NULL,
    test_note character varying(500) NOT NULL,
    moved_in_at timestamp with time zone,
    override character varying(500) NOT NULL,
    ended_at timestamp with time zone,
    version integer NOT NULL,
    author_id bigint,
    habitat_id bigint NOT NULL,
    seen jsonb NOT NULL,
    CONSTRAINT building_build_version_check CHECK ((version >= 0)),
    CONSTRAINT moved_in_is_ended CHECK (((moved_in_at IS NULL) OR (ended_at IS NOT NULL)))
);
ALTER TABLE public.building_build ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.building_build_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.building_donestep (
    id bigint NOT NULL,
    step character varying(80) NOT NULL,
    at timestamp with time zone NOT NULL,
    note character varying(500) NOT NULL,
    digest character varying(64) NOT NULL,
    author_id bigint,
    build_id bigint NOT NULL
);
ALTER TABLE public.building_donestep ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.building_donestep_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.daybook_event (
    id bigint NOT NULL,
    kind character varying(30) NOT NULL,
    at timestamp with time zone NOT NULL,
    payload jsonb NOT NULL,
    author_id bigint,
    habitat_id bigint,
    room_id bigint NOT NULL,
    animal_id bigint,
    replaces_id bigint,
    taken_back_at timestamp with time zone,
    taken_back_by_id bigint,
    written_at timestamp with time zone
);
ALTER TABLE public.daybook_event ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.daybook_event_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.daybook_instrument (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    kind character varying(20) NOT NULL,
    reads_high double precision NOT NULL,
    sure_to double precision NOT NULL,
    room_id bigint NOT NULL,
    CONSTRAINT no_instrument_is_perfect CHECK ((sure_to > (0.0)::double precision))
);
ALTER TABLE public.daybook_instrument ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.daybook_instrument_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.daybook_letter (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    keeper_id bigint NOT NULL,
    notice_id bigint NOT NULL
);
ALTER TABLE public.daybook_letter ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.daybook_letter_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.daybook_notice (
    id bigint NOT NULL,
    code character varying(30) NOT NULL,
    ident character varying(80) NOT NULL,
    level character varying(10) NOT NULL,
    told jsonb NOT NULL,
    since timestamp with time zone NOT NULL,
    looked_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    quiet_until date,
    quiet_reason character varying(300) NOT NULL,
    animal_id bigint,
    channel_id bigint,
    habitat_id bigint,
    quiet_by_id bigint,
    room_id bigint NOT NULL,
    CONSTRAINT ended_after CHECK (((ended_at IS NULL) OR (ended_at >= since)))
);
ALTER TABLE public.daybook_notice ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.daybook_notice_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.daybook_photo (
    id bigint NOT NULL,
    jpeg bytea NOT NULL,
    width integer NOT NULL,
    height integer NOT NULL,
    event_id bigint NOT NULL,
    CONSTRAINT a_photo_has_a_size CHECK (((height >= 1) AND (width >= 1))),
    CONSTRAINT daybook_photo_height_check CHECK ((height >= 0)),
    CONSTRAINT daybook_photo_width_check CHECK ((width >= 0))
);
ALTER TABLE public.daybook_photo ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.daybook_photo_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.daybook_quiet (
    id bigint NOT NULL,
    key character varying(80) NOT NULL,
    until date NOT NULL,
    reason character varying(300) NOT NULL,
    at timestamp with time zone NOT NULL,
    animal_id bigint NOT NULL,
    author_id bigint
);
ALTER TABLE public.daybook_quiet ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.daybook_quiet_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.daybook_written (
    id bigint NOT NULL,
    key character varying(64) NOT NULL,
    at timestamp with time zone NOT NULL,
    answer character varying(300) NOT NULL
);
ALTER TABLE public.daybook_written ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.daybook_written_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.django_content_type (
    id integer NOT NULL,
    app_label character varying(100) NOT NULL,
    model character varying(100) NOT NULL
);
ALTER TABLE public.django_content_type ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.django_content_type_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.django_migrations (
    id bigint NOT NULL,
    app character varying(255) NOT NULL,
    name character varying(255) NOT NULL,
    applied timestamp with time zone NOT NULL
);
ALTER TABLE public.django_migrations ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.django_migrations_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.django_session (
    session_key character varying(40) NOT NULL,
    session_data text NOT NULL,
    expire_date timestamp with time zone NOT NULL
);
CREATE TABLE public.electrics_roomwiring (
    id bigint NOT NULL,
    document jsonb NOT NULL,
    version integer NOT NULL,
    room_id bigint NOT NULL,
    CONSTRAINT electrics_roomwiring_version_check CHECK ((version >= 0))
);
ALTER TABLE public.electrics_roomwiring ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.electrics_roomwiring_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.keeping_daybookfile (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    name character varying(120) NOT NULL,
    state character varying(10) NOT NULL,
    step character varying(10) NOT NULL,
    rows integer NOT NULL,
    done integer NOT NULL,
    outcome jsonb NOT NULL,
    author_id bigint,
    room_id bigint NOT NULL,
    upload_id bigint,
    CONSTRAINT keeping_daybookfile_done_check CHECK ((done >= 0)),
    CONSTRAINT keeping_daybookfile_rows_check CHECK ((rows >= 0))
);
ALTER TABLE public.keeping_daybookfile ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.keeping_daybookfile_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.money_roompurse (
    id bigint NOT NULL,
    document jsonb NOT NULL,
    version integer NOT NULL,
    room_id bigint NOT NULL,
    CONSTRAINT money_roompurse_version_check CHECK ((version >= 0))
);
ALTER TABLE public.money_roompurse ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.money_roompurse_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.money_shopping (
    id bigint NOT NULL,
    ticks jsonb NOT NULL,
    habitat_id bigint NOT NULL
);
ALTER TABLE public.money_shopping ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.money_shopping_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.otp_static_staticdevice (
    id integer NOT NULL,
    name character varying(64) NOT NULL,
    confirmed boolean NOT NULL,
    user_id bigint NOT NULL,
    throttling_failure_count integer NOT NULL,
    throttling_failure_timestamp timestamp with time zone,
    created_at timestamp with time zone,
    last_used_at timestamp with time zone,
    CONSTRAINT otp_static_staticdevice_throttling_failure_count_check CHECK ((throttling_failure_count >= 0))
);
ALTER TABLE public.otp_static_staticdevice ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.otp_static_staticdevice_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.otp_static_statictoken (
    id integer NOT NULL,
    token character varying(16) NOT NULL,
    device_id integer NOT NULL
);
ALTER TABLE public.otp_static_statictoken ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.otp_static_statictoken_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.otp_totp_totpdevice (
    id integer NOT NULL,
    name character varying(64) NOT NULL,
    confirmed boolean NOT NULL,
    key character varying(80) NOT NULL,
    step smallint NOT NULL,
    t0 bigint NOT NULL,
    digits smallint NOT NULL,
    tolerance smallint NOT NULL,
    drift smallint NOT NULL,
    last_t bigint NOT NULL,
    user_id bigint NOT NULL,
    throttling_failure_count integer NOT NULL,
    throttling_failure_timestamp timestamp with time zone,
    created_at timestamp with time zone,
    last_used_at timestamp with time zone,
    CONSTRAINT otp_totp_totpdevice_digits_check CHECK ((digits >= 0)),
    CONSTRAINT otp_totp_totpdevice_step_check CHECK ((step >= 0)),
    CONSTRAINT otp_totp_totpdevice_throttling_failure_count_check CHECK ((throttling_failure_count >= 0)),
    CONSTRAINT otp_totp_totpdevice_tolerance_check CHECK ((tolerance >= 0))
);
ALTER TABLE public.otp_totp_totpdevice ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.otp_totp_totpdevice_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.pantry_change (
    id bigint NOT NULL,
    amount double precision NOT NULL,
    why character varying(10) NOT NULL,
    at timestamp with time zone NOT NULL,
    event_id bigint,
    lot_id bigint NOT NULL
);
ALTER TABLE public.pantry_change ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pantry_change_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.pantry_culture (
    id bigint NOT NULL,
    kind character varying(40) NOT NULL,
    name character varying(60) NOT NULL,
    vessels integer NOT NULL,
    temperature_c double precision,
    started date NOT NULL,
    last_split date,
    ended_on date,
    ended_by character varying(20) NOT NULL,
    room_id bigint NOT NULL,
    CONSTRAINT a_culture_has_a_vessel CHECK ((vessels >= 1)),
    CONSTRAINT pantry_culture_vessels_check CHECK ((vessels >= 0))
);
ALTER TABLE public.pantry_culture ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pantry_culture_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.pantry_cultureentry (
    id bigint NOT NULL,
    what character varying(10) NOT NULL,
    amount double precision,
    note character varying(300) NOT NULL,
    at timestamp with time zone NOT NULL,
    author_id bigint,
    culture_id bigint NOT NULL
);
ALTER TABLE public.pantry_cultureentry ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pantry_cultureentry_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.pantry_delivery (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    before jsonb NOT NULL,
    undone_at timestamp with time zone,
    author_id bigint,
    room_id bigint NOT NULL
);
ALTER TABLE public.pantry_delivery ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pantry_delivery_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.pantry_freezer (
    id bigint NOT NULL,
    litres double precision NOT NULL,
    room_id bigint NOT NULL,
    CONSTRAINT a_freezer_has_room CHECK ((litres > (0.0)::double precision))
);
ALTER TABLE public.pantry_freezer ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pantry_freezer_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.pantry_gutload (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    parts jsonb NOT NULL,
    room_id bigint NOT NULL
);
ALTER TABLE public.pantry_gutload ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pantry_gutload_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.pantry_item (
    id bigint NOT NULL,
    food character varying(80) NOT NULL,
    kind character varying(10) NOT NULL,
    unit character varying(6) NOT NULL,
    pack_size double precision NOT NULL,
    pack_price double precision,
    lead_days smallint NOT NULL,
    good_days smallint,
    room_id bigint NOT NULL,
    CONSTRAINT pack_holds_something CHECK ((pack_size > (0.0)::double precision)),
    CONSTRAINT pantry_item_good_days_check CHECK ((good_days >= 0)),
    CONSTRAINT pantry_item_lead_days_check CHECK ((lead_days >= 0)),
    CONSTRAINT price_not_below_zero CHECK (((pack_price IS NULL) OR (pack_price >= (0.0)::double precision)))
);
ALTER TABLE public.pantry_item ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pantry_item_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.pantry_lot (
    id bigint NOT NULL,
    amount double precision NOT NULL,
    received date NOT NULL,
    best_before date,
    item_id bigint NOT NULL,
    delivery_id bigint,
    piece_g double precision,
    CONSTRAINT a_piece_weighs_something CHECK (((piece_g IS NULL) OR (piece_g > (0.0)::double precision))),
    CONSTRAINT no_lot_below_nothing CHECK ((amount >= (0.0)::double precision))
);
ALTER TABLE public.pantry_lot ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pantry_lot_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.planner_glance (
    id bigint NOT NULL,
    units character varying(120) NOT NULL,
    version integer NOT NULL,
    logged integer NOT NULL,
    day date NOT NULL,
    made_by character varying(32) NOT NULL,
    document jsonb NOT NULL,
    habitat_id bigint NOT NULL,
    CONSTRAINT planner_glance_logged_check CHECK ((logged >= 0)),
    CONSTRAINT planner_glance_version_check CHECK ((version >= 0))
);
ALTER TABLE public.planner_glance ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.planner_glance_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.planner_planrevision (
    id bigint NOT NULL,
    number integer NOT NULL,
    document jsonb NOT NULL,
    label character varying(120) NOT NULL,
    created_at timestamp with time zone NOT NULL,
    author_id bigint,
    habitat_id bigint NOT NULL,
    parent_id bigint,
    profile_id bigint NOT NULL,
    follows boolean NOT NULL,
    told jsonb NOT NULL,
    CONSTRAINT planner_planrevision_number_check CHECK ((number >= 0)),
    CONSTRAINT revision_numbers_from_one CHECK ((number >= 1))
);
ALTER TABLE public.planner_planrevision ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.planner_planrevision_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.planner_planversion (
    id bigint NOT NULL,
    version integer NOT NULL,
    habitat_id bigint NOT NULL,
    revision_id bigint NOT NULL,
    CONSTRAINT planner_planversion_version_check CHECK ((version >= 0))
);
ALTER TABLE public.planner_planversion ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.planner_planversion_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.planner_profilesnapshot (
    id bigint NOT NULL,
    species character varying(60) NOT NULL,
    sha256 character varying(64) NOT NULL,
    document jsonb NOT NULL,
    created_at timestamp with time zone NOT NULL
);
ALTER TABLE public.planner_profilesnapshot ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.planner_profilesnapshot_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.procrastinate_events (
    id bigint NOT NULL,
    job_id bigint NOT NULL,
    type public.procrastinate_job_event_type,
    at timestamp with time zone DEFAULT now()
);
CREATE SEQUENCE public.procrastinate_events_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.procrastinate_events_id_seq OWNED BY public.procrastinate_events.id;
CREATE SEQUENCE public.procrastinate_jobs_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.procrastinate_jobs_id_seq OWNED BY public.procrastinate_jobs.id;
CREATE TABLE public.procrastinate_periodic_defers (
    id bigint NOT NULL,
    task_name character varying(128) NOT NULL,
    defer_timestamp bigint,
    job_id bigint,
    periodic_id character varying(128) DEFAULT ''::character varying NOT NULL
);
CREATE SEQUENCE public.procrastinate_periodic_defers_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.procrastinate_periodic_defers_id_seq OWNED BY public.procrastinate_periodic_defers.id;
CREATE TABLE public.procrastinate_workers (
    id bigint NOT NULL,
    last_heartbeat timestamp with time zone DEFAULT now() NOT NULL
);
ALTER TABLE public.procrastinate_workers ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.procrastinate_workers_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.reviewing_visitor (
    id bigint NOT NULL,
    digest character varying(64) NOT NULL,
    "left" double precision NOT NULL,
    counted_at timestamp with time zone NOT NULL
);
ALTER TABLE public.reviewing_visitor ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.reviewing_visitor_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rooms_animal (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    species character varying(60) NOT NULL,
    marks character varying(200) NOT NULL,
    chip character varying(40) NOT NULL,
    sex character varying(10) NOT NULL,
    sexed_on date,
    sexed_by character varying(20) NOT NULL,
    hatched date,
    hatched_is_estimate boolean NOT NULL,
    origin character varying(20) NOT NULL,
    came_from character varying(120) NOT NULL,
    papers character varying(200) NOT NULL,
    left_on date,
    left_by character varying(10) NOT NULL,
    version integer NOT NULL,
    created_at timestamp with time zone NOT NULL,
    father_id bigint,
    mother_id bigint,
    room_id bigint NOT NULL,
    CONSTRAINT gone_is_a_day_and_a_way CHECK (((((left_by)::text = ''::text) AND (left_on IS NULL)) OR ((left_on IS NOT NULL) AND (NOT ((left_by)::text = ''::text))))),
    CONSTRAINT nobody_is_its_own_parent CHECK (((NOT ((mother_id = id) AND (mother_id IS NOT NULL))) AND (NOT ((father_id = id) AND (father_id IS NOT NULL))))),
    CONSTRAINT rooms_animal_version_check CHECK ((version >= 0))
);
CREATE TABLE public.rooms_company (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    count integer NOT NULL,
    habitat_id bigint NOT NULL,
    others jsonb NOT NULL,
    CONSTRAINT at_least_one_animal CHECK ((count >= 1)),
    CONSTRAINT rooms_animal_count_check CHECK ((count >= 0))
);
ALTER TABLE public.rooms_company ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rooms_animal_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
ALTER TABLE public.rooms_animal ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rooms_animal_id_seq1
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rooms_habitat (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    species character varying(60) NOT NULL,
    version integer NOT NULL,
    set_aside_at timestamp with time zone,
    created_at timestamp with time zone NOT NULL,
    head_id bigint,
    room_id bigint NOT NULL,
    logged integer NOT NULL,
    place integer NOT NULL,
    learns_by_itself boolean NOT NULL,
    CONSTRAINT rooms_habitat_logged_check CHECK ((logged >= 0)),
    CONSTRAINT rooms_habitat_place_check CHECK ((place >= 0)),
    CONSTRAINT rooms_habitat_version_check CHECK ((version >= 0))
);
ALTER TABLE public.rooms_habitat ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rooms_habitat_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rooms_invitation (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    role character varying(10) NOT NULL,
    sha256 character varying(64) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    until date NOT NULL,
    stays_until date,
    used_at timestamp with time zone,
    ended_at timestamp with time zone,
    made_by_id bigint NOT NULL,
    room_id bigint NOT NULL,
    used_by_id bigint
);
ALTER TABLE public.rooms_invitation ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rooms_invitation_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rooms_membership (
    id bigint NOT NULL,
    role character varying(10) NOT NULL,
    keeper_id bigint NOT NULL,
    room_id bigint NOT NULL,
    until date
);
ALTER TABLE public.rooms_membership ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rooms_membership_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rooms_residence (
    id bigint NOT NULL,
    since date NOT NULL,
    until date,
    why character varying(20) NOT NULL,
    note character varying(300) NOT NULL,
    animal_id bigint NOT NULL,
    habitat_id bigint NOT NULL,
    CONSTRAINT out_after_in CHECK (((until IS NULL) OR (until >= since)))
);
ALTER TABLE public.rooms_residence ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rooms_residence_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rooms_room (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    created_at timestamp with time zone NOT NULL,
    weekdays jsonb NOT NULL,
    climate jsonb,
    raw_days integer,
    CONSTRAINT rooms_room_raw_days_check CHECK ((raw_days >= 0))
);
ALTER TABLE public.rooms_room ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rooms_room_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rooms_seeding (
    id bigint NOT NULL,
    name character varying(40) NOT NULL,
    loaded_at timestamp with time zone NOT NULL
);
ALTER TABLE public.rooms_seeding ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rooms_seeding_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rooms_sitterlink (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    sha256 character varying(64) NOT NULL,
    first_day date NOT NULL,
    last_day date NOT NULL,
    call character varying(200) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    opened_at timestamp with time zone,
    ended_at timestamp with time zone,
    keeper_id bigint NOT NULL,
    made_by_id bigint NOT NULL,
    room_id bigint NOT NULL,
    CONSTRAINT a_sitter_comes_before_leaving CHECK ((last_day >= first_day))
);
ALTER TABLE public.rooms_sitterlink ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rooms_sitterlink_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rota_rotacard (
    id bigint NOT NULL,
    version integer NOT NULL,
    logged integer NOT NULL,
    good_until date NOT NULL,
    stamp character varying(32) NOT NULL,
    document jsonb NOT NULL,
    habitat_id bigint NOT NULL,
    CONSTRAINT card_of_a_saved_plan CHECK ((version >= 1)),
    CONSTRAINT rota_rotacard_logged_check CHECK ((logged >= 0)),
    CONSTRAINT rota_rotacard_version_check CHECK ((version >= 0))
);
ALTER TABLE public.rota_rotacard ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rota_rotacard_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rota_subscription (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    sha256 character varying(64) NOT NULL,
    feeds_only boolean NOT NULL,
    made_at timestamp with time zone NOT NULL,
    read_at timestamp with time zone,
    revoked_at timestamp with time zone,
    keeper_id bigint NOT NULL,
    room_id bigint NOT NULL,
    by_day boolean NOT NULL
);
ALTER TABLE public.rota_subscription ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.rota_subscription_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.series_channel (
    id bigint NOT NULL,
    place character varying(30) NOT NULL,
    label character varying(60) NOT NULL,
    x_m double precision,
    height_m double precision,
    heater integer NOT NULL,
    code character varying(60) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    every_min double precision,
    last_at timestamp with time zone,
    last_value double precision,
    by_itself boolean NOT NULL,
    animal_id bigint,
    habitat_id bigint,
    instrument_id bigint,
    room_id bigint NOT NULL,
    CONSTRAINT an_interval_is_long CHECK (((every_min IS NULL) OR (every_min > (0.0)::double precision))),
    CONSTRAINT series_channel_heater_check CHECK ((heater >= 0))
);
ALTER TABLE public.series_channel ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.series_channel_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.series_correction (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    how character varying(10) NOT NULL,
    shown double precision NOT NULL,
    reads_high double precision NOT NULL,
    sure_to double precision NOT NULL,
    against_id bigint,
    author_id bigint,
    instrument_id bigint NOT NULL
);
ALTER TABLE public.series_correction ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.series_correction_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.series_device (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    digest character varying(64) NOT NULL,
    name_in_topics character varying(16) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    revoked_at timestamp with time zone,
    heard_at timestamp with time zone,
    refused character varying(200) NOT NULL,
    allowance double precision NOT NULL,
    counted_at timestamp with time zone,
    room_id bigint NOT NULL
);
ALTER TABLE public.series_device ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.series_device_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.series_foretoldhour (
    at timestamp with time zone NOT NULL,
    mean double precision NOT NULL,
    sigma double precision NOT NULL,
    channel_id bigint NOT NULL
);
CREATE TABLE public.series_hour (
    at timestamp with time zone NOT NULL,
    count integer NOT NULL,
    mean double precision NOT NULL,
    low double precision NOT NULL,
    high double precision NOT NULL,
    channel_id bigint NOT NULL,
    CONSTRAINT series_hour_count_check CHECK ((count >= 0))
);
CREATE TABLE public.series_sample (
    at timestamp with time zone NOT NULL,
    value double precision NOT NULL,
    channel_id bigint NOT NULL
);
CREATE TABLE public.series_tablefile (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    content bytea,
    digest character varying(64) NOT NULL,
    said jsonb NOT NULL,
    state character varying(10) NOT NULL,
    rows integer NOT NULL,
    done integer NOT NULL,
    outcome jsonb NOT NULL,
    at timestamp with time zone NOT NULL,
    author_id bigint,
    room_id bigint NOT NULL,
    CONSTRAINT series_tablefile_done_check CHECK ((done >= 0)),
    CONSTRAINT series_tablefile_rows_check CHECK ((rows >= 0))
);
ALTER TABLE public.series_tablefile ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.series_tablefile_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.series_tablemapping (
    id bigint NOT NULL,
    shape character varying(64) NOT NULL,
    said jsonb NOT NULL,
    at timestamp with time zone NOT NULL,
    room_id bigint NOT NULL
);
ALTER TABLE public.series_tablemapping ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.series_tablemapping_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.sharing_publicpage (
    id bigint NOT NULL,
    token character varying(40) NOT NULL,
    shows jsonb NOT NULL,
    note character varying(400) NOT NULL,
    made_at timestamp with time zone NOT NULL,
    habitat_id bigint NOT NULL,
    made_by_id bigint
);
ALTER TABLE public.sharing_publicpage ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.sharing_publicpage_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.uploads_part (
    id bigint NOT NULL,
    begins bigint NOT NULL,
    length integer NOT NULL,
    content bytea NOT NULL,
    upload_id bigint NOT NULL,
    CONSTRAINT uploads_part_begins_check CHECK ((begins >= 0)),
    CONSTRAINT uploads_part_length_check CHECK ((length >= 0))
);
ALTER TABLE public.uploads_part ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.uploads_part_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.uploads_upload (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    size bigint NOT NULL,
    received bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    claimed boolean NOT NULL,
    author_id bigint NOT NULL,
    room_id bigint,
    CONSTRAINT no_more_than_was_said CHECK ((received <= size)),
    CONSTRAINT uploads_upload_received_check CHECK ((received >= 0)),
    CONSTRAINT uploads_upload_size_check CHECK ((size >= 0))
);
ALTER TABLE public.uploads_upload ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.uploads_upload_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
ALTER TABLE ONLY public.procrastinate_events ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_events_id_seq'::regclass);
ALTER TABLE ONLY public.procrastinate_jobs ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_jobs_id_seq'::regclass);
ALTER TABLE ONLY public.procrastinate_periodic_defers ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_periodic_defers_id_seq'::regclass);
ALTER TABLE ONLY public.building_donestep
    ADD CONSTRAINT a_step_is_done_once UNIQUE (build_id, step);
ALTER TABLE ONLY public.accounts_accountinvitation
    ADD CONSTRAINT accounts_accountinvitation_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_accountinvitation
    ADD CONSTRAINT accounts_accountinvitation_sha256_key UNIQUE (sha256);
ALTER TABLE ONLY public.accounts_happening
    ADD CONSTRAINT accounts_happening_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_keeper_groups
    ADD CONSTRAINT accounts_keeper_groups_keeper_id_group_id_2db216a1_uniq UNIQUE (keeper_id, group_id);
ALTER TABLE ONLY public.accounts_keeper_groups
    ADD CONSTRAINT accounts_keeper_groups_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_keeper
    ADD CONSTRAINT accounts_keeper_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_keeper_user_permissions
    ADD CONSTRAINT accounts_keeper_user_per_keeper_id_permission_id_73711665_uniq UNIQUE (keeper_id, permission_id);
ALTER TABLE ONLY public.accounts_keeper_user_permissions
    ADD CONSTRAINT accounts_keeper_user_permissions_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_keeper
    ADD CONSTRAINT accounts_keeper_username_key UNIQUE (username);
ALTER TABLE ONLY public.accounts_night
    ADD CONSTRAINT accounts_night_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_night
    ADD CONSTRAINT accounts_night_task_key UNIQUE (task);
ALTER TABLE ONLY public.accounts_signedin
    ADD CONSTRAINT accounts_signedin_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.accounts_signedin
    ADD CONSTRAINT accounts_signedin_session_key UNIQUE (session);
ALTER TABLE ONLY public.accounts_try
    ADD CONSTRAINT accounts_try_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.api_answered
    ADD CONSTRAINT api_answered_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.api_delivery
    ADD CONSTRAINT api_delivery_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.api_token
    ADD CONSTRAINT api_token_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.api_token
    ADD CONSTRAINT api_token_sha256_key UNIQUE (sha256);
ALTER TABLE ONLY public.api_webhook
    ADD CONSTRAINT api_webhook_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.archive_archivefile
    ADD CONSTRAINT archive_archivefile_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.archive_archivefile
    ADD CONSTRAINT archive_archivefile_upload_id_key UNIQUE (upload_id);
ALTER TABLE ONLY public.archive_deletion
    ADD CONSTRAINT archive_deletion_animal_id_key UNIQUE (animal_id);
ALTER TABLE ONLY public.archive_deletion
    ADD CONSTRAINT archive_deletion_habitat_id_key UNIQUE (habitat_id);
ALTER TABLE ONLY public.archive_deletion
    ADD CONSTRAINT archive_deletion_keeper_id_key UNIQUE (keeper_id);
ALTER TABLE ONLY public.archive_deletion
    ADD CONSTRAINT archive_deletion_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.archive_deletion
    ADD CONSTRAINT archive_deletion_room_id_key UNIQUE (room_id);
ALTER TABLE ONLY public.auth_group
    ADD CONSTRAINT auth_group_name_key UNIQUE (name);
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_group_id_permission_id_0cd325b0_uniq UNIQUE (group_id, permission_id);
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.auth_group
    ADD CONSTRAINT auth_group_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_content_type_id_codename_01ab375a_uniq UNIQUE (content_type_id, codename);
ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.axes_accessattempt
    ADD CONSTRAINT axes_accessattempt_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.axes_accessattempt
    ADD CONSTRAINT axes_accessattempt_username_ip_address_user_agent_8ea22282_uniq UNIQUE (username, ip_address, user_agent);
ALTER TABLE ONLY public.axes_accessattemptexpiration
    ADD CONSTRAINT axes_accessattemptexpiration_pkey PRIMARY KEY (access_attempt_id);
ALTER TABLE ONLY public.axes_accessfailurelog
    ADD CONSTRAINT axes_accessfailurelog_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.axes_accesslog
    ADD CONSTRAINT axes_accesslog_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.book_entry
    ADD CONSTRAINT book_entry_own_id_key UNIQUE (own_id);
ALTER TABLE ONLY public.book_entry
    ADD CONSTRAINT book_entry_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.book_name
    ADD CONSTRAINT book_name_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.book_ownprofile
    ADD CONSTRAINT book_ownprofile_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.building_build
    ADD CONSTRAINT building_build_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.building_donestep
    ADD CONSTRAINT building_donestep_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.daybook_event
    ADD CONSTRAINT daybook_event_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.daybook_event
    ADD CONSTRAINT daybook_event_replaces_id_key UNIQUE (replaces_id);
ALTER TABLE ONLY public.daybook_instrument
    ADD CONSTRAINT daybook_instrument_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.daybook_letter
    ADD CONSTRAINT daybook_letter_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.daybook_notice
    ADD CONSTRAINT daybook_notice_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.daybook_photo
    ADD CONSTRAINT daybook_photo_event_id_key UNIQUE (event_id);
ALTER TABLE ONLY public.daybook_photo
    ADD CONSTRAINT daybook_photo_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.daybook_quiet
    ADD CONSTRAINT daybook_quiet_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.daybook_written
    ADD CONSTRAINT daybook_written_key_key UNIQUE (key);
ALTER TABLE ONLY public.daybook_written
    ADD CONSTRAINT daybook_written_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.django_content_type
    ADD CONSTRAINT django_content_type_app_label_model_76bd3d3b_uniq UNIQUE (app_label, model);
ALTER TABLE ONLY public.django_content_type
    ADD CONSTRAINT django_content_type_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.django_migrations
    ADD CONSTRAINT django_migrations_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.django_session
    ADD CONSTRAINT django_session_pkey PRIMARY KEY (session_key);
ALTER TABLE ONLY public.electrics_roomwiring
    ADD CONSTRAINT electrics_roomwiring_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.electrics_roomwiring
    ADD CONSTRAINT electrics_roomwiring_room_id_key UNIQUE (room_id);
ALTER TABLE ONLY public.keeping_daybookfile
    ADD CONSTRAINT keeping_daybookfile_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.keeping_daybookfile
    ADD CONSTRAINT keeping_daybookfile_upload_id_key UNIQUE (upload_id);
ALTER TABLE ONLY public.money_roompurse
    ADD CONSTRAINT money_roompurse_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.money_roompurse
    ADD CONSTRAINT money_roompurse_room_id_key UNIQUE (room_id);
ALTER TABLE ONLY public.money_shopping
    ADD CONSTRAINT money_shopping_habitat_id_key UNIQUE (habitat_id);
ALTER TABLE ONLY public.money_shopping
    ADD CONSTRAINT money_shopping_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.api_answered
    ADD CONSTRAINT one_answer_for_a_key UNIQUE (token_id, key);
ALTER TABLE ONLY public.series_channel
    ADD CONSTRAINT one_channel_of_a_code UNIQUE (room_id, code);
ALTER TABLE ONLY public.series_device
    ADD CONSTRAINT one_device_of_a_name UNIQUE (room_id, name);
ALTER TABLE ONLY public.planner_glance
    ADD CONSTRAINT one_glance_in_each_units UNIQUE (habitat_id, units);
ALTER TABLE ONLY public.pantry_gutload
    ADD CONSTRAINT one_gut_load_of_a_name UNIQUE (room_id, name);
ALTER TABLE ONLY public.daybook_instrument
    ADD CONSTRAINT one_instrument_of_a_name UNIQUE (room_id, name);
ALTER TABLE ONLY public.pantry_item
    ADD CONSTRAINT one_item_of_a_food UNIQUE (room_id, food);
ALTER TABLE ONLY public.daybook_letter
    ADD CONSTRAINT one_letter_a_notice UNIQUE (keeper_id, notice_id);
ALTER TABLE ONLY public.series_tablemapping
    ADD CONSTRAINT one_mapping_of_a_shape UNIQUE (room_id, shape);
ALTER TABLE ONLY public.rooms_membership
    ADD CONSTRAINT one_membership_per_room UNIQUE (room_id, keeper_id);
ALTER TABLE ONLY public.book_ownprofile
    ADD CONSTRAINT one_own_profile_per_species UNIQUE (room_id, species);
ALTER TABLE ONLY public.uploads_part
    ADD CONSTRAINT one_part_at_a_place UNIQUE (upload_id, begins);
ALTER TABLE ONLY public.planner_planrevision
    ADD CONSTRAINT one_revision_per_number UNIQUE (habitat_id, number);
ALTER TABLE ONLY public.planner_planversion
    ADD CONSTRAINT one_state_per_version UNIQUE (habitat_id, version);
ALTER TABLE ONLY public.otp_static_staticdevice
    ADD CONSTRAINT otp_static_staticdevice_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.otp_static_statictoken
    ADD CONSTRAINT otp_static_statictoken_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.otp_totp_totpdevice
    ADD CONSTRAINT otp_totp_totpdevice_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.pantry_change
    ADD CONSTRAINT pantry_change_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.pantry_culture
    ADD CONSTRAINT pantry_culture_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.pantry_cultureentry
    ADD CONSTRAINT pantry_cultureentry_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.pantry_delivery
    ADD CONSTRAINT pantry_delivery_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.pantry_freezer
    ADD CONSTRAINT pantry_freezer_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.pantry_freezer
    ADD CONSTRAINT pantry_freezer_room_id_key UNIQUE (room_id);
ALTER TABLE ONLY public.pantry_gutload
    ADD CONSTRAINT pantry_gutload_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.pantry_item
    ADD CONSTRAINT pantry_item_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.pantry_lot
    ADD CONSTRAINT pantry_lot_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.planner_glance
    ADD CONSTRAINT planner_glance_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.planner_planrevision
    ADD CONSTRAINT planner_planrevision_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.planner_planversion
    ADD CONSTRAINT planner_planversion_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.planner_profilesnapshot
    ADD CONSTRAINT planner_profilesnapshot_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.planner_profilesnapshot
    ADD CONSTRAINT planner_profilesnapshot_sha256_key UNIQUE (sha256);
ALTER TABLE ONLY public.procrastinate_events
    ADD CONSTRAINT procrastinate_events_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.procrastinate_jobs
    ADD CONSTRAINT procrastinate_jobs_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_unique UNIQUE (task_name, periodic_id, defer_timestamp);
ALTER TABLE ONLY public.procrastinate_workers
    ADD CONSTRAINT procrastinate_workers_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.reviewing_visitor
    ADD CONSTRAINT reviewing_visitor_digest_key UNIQUE (digest);
ALTER TABLE ONLY public.reviewing_visitor
    ADD CONSTRAINT reviewing_visitor_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rooms_company
    ADD CONSTRAINT rooms_animal_habitat_id_key UNIQUE (habitat_id);
ALTER TABLE ONLY public.rooms_company
    ADD CONSTRAINT rooms_animal_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rooms_animal
    ADD CONSTRAINT rooms_animal_pkey1 PRIMARY KEY (id);
ALTER TABLE ONLY public.rooms_habitat
    ADD CONSTRAINT rooms_habitat_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rooms_invitation
    ADD CONSTRAINT rooms_invitation_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rooms_invitation
    ADD CONSTRAINT rooms_invitation_sha256_key UNIQUE (sha256);
ALTER TABLE ONLY public.rooms_membership
    ADD CONSTRAINT rooms_membership_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rooms_residence
    ADD CONSTRAINT rooms_residence_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rooms_room
    ADD CONSTRAINT rooms_room_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rooms_seeding
    ADD CONSTRAINT rooms_seeding_name_key UNIQUE (name);
ALTER TABLE ONLY public.rooms_seeding
    ADD CONSTRAINT rooms_seeding_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rooms_sitterlink
    ADD CONSTRAINT rooms_sitterlink_keeper_id_key UNIQUE (keeper_id);
ALTER TABLE ONLY public.rooms_sitterlink
    ADD CONSTRAINT rooms_sitterlink_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rooms_sitterlink
    ADD CONSTRAINT rooms_sitterlink_sha256_key UNIQUE (sha256);
ALTER TABLE ONLY public.rota_rotacard
    ADD CONSTRAINT rota_rotacard_habitat_id_key UNIQUE (habitat_id);
ALTER TABLE ONLY public.rota_rotacard
    ADD CONSTRAINT rota_rotacard_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rota_subscription
    ADD CONSTRAINT rota_subscription_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rota_subscription
    ADD CONSTRAINT rota_subscription_sha256_key UNIQUE (sha256);
ALTER TABLE ONLY public.series_channel
    ADD CONSTRAINT series_channel_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.series_correction
    ADD CONSTRAINT series_correction_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.series_device
    ADD CONSTRAINT series_device_digest_key UNIQUE (digest);
ALTER TABLE ONLY public.series_device
    ADD CONSTRAINT series_device_name_in_topics_key UNIQUE (name_in_topics);
ALTER TABLE ONLY public.series_device
    ADD CONSTRAINT series_device_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.series_foretoldhour
    ADD CONSTRAINT series_foretoldhour_pkey PRIMARY KEY (channel_id, at);
ALTER TABLE ONLY public.series_hour
    ADD CONSTRAINT series_hour_pkey PRIMARY KEY (channel_id, at);
ALTER TABLE ONLY public.series_sample
    ADD CONSTRAINT series_sample_pkey PRIMARY KEY (channel_id, at);
ALTER TABLE ONLY public.series_tablefile
    ADD CONSTRAINT series_tablefile_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.series_tablemapping
    ADD CONSTRAINT series_tablemapping_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.sharing_publicpage
    ADD CONSTRAINT sharing_publicpage_habitat_id_key UNIQUE (habitat_id);
ALTER TABLE ONLY public.sharing_publicpage
    ADD CONSTRAINT sharing_publicpage_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.sharing_publicpage
    ADD CONSTRAINT sharing_publicpage_token_key UNIQUE (token);
ALTER TABLE ONLY public.api_delivery
    ADD CONSTRAINT told_once UNIQUE (webhook_id, kind, about);
ALTER TABLE ONLY public.uploads_part
    ADD CONSTRAINT uploads_part_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.uploads_upload
    ADD CONSTRAINT uploads_upload_pkey PRIMARY KEY (id);
CREATE INDEX accounts_accountinvitation_made_by_id_ad8b877a ON public.accounts_accountinvitation USING btree (made_by_id);
CREATE INDEX accounts_accountinvitation_sha256_ffb6fc82_like ON public.accounts_accountinvitation USING btree (sha256 varchar_pattern_ops);
CREATE INDEX accounts_ha_keeper__13d5d4_idx ON public.accounts_happening USING btree (keeper_id, at DESC);
CREATE INDEX accounts_happening_keeper_id_6f52b39a ON public.accounts_happening USING btree (keeper_id);
CREATE INDEX accounts_keeper_groups_group_id_23b5b2d0 ON public.accounts_keeper_groups USING btree (group_id);
CREATE INDEX accounts_keeper_groups_keeper_id_0ebd75dc ON public.accounts_keeper_groups USING btree (keeper_id);
CREATE INDEX accounts_keeper_user_permissions_keeper_id_d0d74e02 ON public.accounts_keeper_user_permissions USING btree (keeper_id);
CREATE INDEX accounts_keeper_user_permissions_permission_id_daa63eae ON public.accounts_keeper_user_permissions USING btree (permission_id);
CREATE INDEX accounts_keeper_username_eb99b728_like ON public.accounts_keeper USING btree (username varchar_pattern_ops);
CREATE INDEX accounts_night_task_7e9c4ecb_like ON public.accounts_night USING btree (task varchar_pattern_ops);
CREATE INDEX accounts_signedin_keeper_id_6e52ff78 ON public.accounts_signedin USING btree (keeper_id);
CREATE INDEX accounts_signedin_session_9e88697e_like ON public.accounts_signedin USING btree (session varchar_pattern_ops);
CREATE INDEX accounts_tr_address_816282_idx ON public.accounts_try USING btree (address, at DESC);
CREATE INDEX accounts_tr_name_5b3284_idx ON public.accounts_try USING btree (name, at DESC);
CREATE UNIQUE INDEX an_animal_lives_in_one_habitat ON public.rooms_residence USING btree (animal_id) WHERE (until IS NULL);
CREATE INDEX api_answere_at_349cd4_idx ON public.api_answered USING btree (at);
CREATE INDEX api_answered_token_id_8db0fe94 ON public.api_answered USING btree (token_id);
CREATE INDEX api_deliver_due_at_f1c062_idx ON public.api_delivery USING btree (due_at);
CREATE INDEX api_delivery_webhook_id_645179c6 ON public.api_delivery USING btree (webhook_id);
CREATE INDEX api_token_made_by_id_ef973054 ON public.api_token USING btree (made_by_id);
CREATE INDEX api_token_room_id_75379162 ON public.api_token USING btree (room_id);
CREATE INDEX api_token_sha256_5be9bf49_like ON public.api_token USING btree (sha256 varchar_pattern_ops);
CREATE INDEX api_webhook_made_by_id_4988809e ON public.api_webhook USING btree (made_by_id);
CREATE INDEX api_webhook_room_id_0f2b3f73 ON public.api_webhook USING btree (room_id);
CREATE INDEX archive_archivefile_author_id_afa83e56 ON public.archive_archivefile USING btree (author_id);
CREATE INDEX archive_archivefile_room_id_10e92e00 ON public.archive_archivefile USING btree (room_id);
CREATE INDEX archive_deletion_asked_by_id_e138103e ON public.archive_deletion USING btree (asked_by_id);
CREATE INDEX auth_group_name_a6ea08ec_like ON public.auth_group USING btree (name varchar_pattern_ops);
CREATE INDEX auth_group_permissions_group_id_b120cbf9 ON public.auth_group_permissions USING btree (group_id);
CREATE INDEX auth_group_permissions_permission_id_84c5c92e ON public.auth_group_permissions USING btree (permission_id);
CREATE INDEX auth_permission_content_type_id_2f476e4b ON public.auth_permission USING btree (content_type_id);
CREATE INDEX axes_accessattempt_ip_address_10922d9c ON public.axes_accessattempt USING btree (ip_address);
CREATE INDEX axes_accessattempt_user_agent_ad89678b ON public.axes_accessattempt USING btree (user_agent);
CREATE INDEX axes_accessattempt_user_agent_ad89678b_like ON public.axes_accessattempt USING btree (user_agent varchar_pattern_ops);
CREATE INDEX axes_accessattempt_username_3f2d4ca0 ON public.axes_accessattempt USING btree (username);
CREATE INDEX axes_accessattempt_username_3f2d4ca0_like ON public.axes_accessattempt USING btree (username varchar_pattern_ops);
CREATE INDEX axes_accessfailurelog_ip_address_2e9f5a7f ON public.axes_accessfailurelog USING btree (ip_address);
CREATE INDEX axes_accessfailurelog_user_agent_ea145dda ON public.axes_accessfailurelog USING btree (user_agent);
CREATE INDEX axes_accessfailurelog_user_agent_ea145dda_like ON public.axes_accessfailurelog USING btree (user_agent varchar_pattern_ops);
CREATE INDEX axes_accessfailurelog_username_a8b7e8a4 ON public.axes_accessfailurelog USING btree (username);
CREATE INDEX axes_accessfailurelog_username_a8b7e8a4_like ON public.axes_accessfailurelog USING btree (username varchar_pattern_ops);
CREATE INDEX axes_accesslog_ip_address_86b417e5 ON public.axes_accesslog USING btree (ip_address);
CREATE INDEX axes_accesslog_user_agent_0e659004 ON public.axes_accesslog USING btree (user_agent);
CREATE INDEX axes_accesslog_user_agent_0e659004_like ON public.axes_accesslog USING btree (user_agent varchar_pattern_ops);
CREATE INDEX axes_accesslog_username_df93064b ON public.axes_accesslog USING btree (username);
CREATE INDEX axes_accesslog_username_df93064b_like ON public.axes_accesslog USING btree (username varchar_pattern_ops);
CREATE INDEX book_entry_species_bdb6e820 ON public.book_entry USING btree (species);
CREATE INDEX book_entry_species_bdb6e820_like ON public.book_entry USING btree (species varchar_pattern_ops);
CREATE INDEX book_name_entry_id_0c376b0d ON public.book_name USING btree (entry_id);
CREATE INDEX book_ownprofile_author_id_1d1311ce ON public.book_ownprofile USING btree (author_id);
CREATE INDEX book_ownprofile_room_id_8c71a8ef ON public.book_ownprofile USING btree (room_id);
CREATE INDEX book_ownprofile_species_1ae34e9e ON public.book_ownprofile USING btree (species);
CREATE INDEX book_ownprofile_species_1ae34e9e_like ON public.book_ownprofile USING btree (species varchar_pattern_ops);
CREATE INDEX building_build_author_id_34ff3d05 ON public.building_build USING btree (author_id);
CREATE INDEX building_build_habitat_id_c770d847 ON public.building_build USING btree (habitat_id);
CREATE INDEX building_donestep_author_id_3e509c9a ON public.building_donestep USING btree (author_id);
CREATE INDEX building_donestep_build_id_0b15441e ON public.building_donestep USING btree (build_id);
CREATE INDEX daybook_eve_animal__fb950b_idx ON public.daybook_event USING btree (animal_id, at DESC);
CREATE INDEX daybook_eve_habitat_151dec_idx ON public.daybook_event USING btree (habitat_id, at DESC);
CREATE INDEX daybook_eve_room_id_103e25_idx ON public.daybook_event USING btree (room_id, at DESC);
CREATE INDEX daybook_eve_room_id_cfbc02_idx ON public.daybook_event USING btree (room_id, kind, at DESC);
CREATE INDEX daybook_event_animal_id_be8e5a0b ON public.daybook_event USING btree (animal_id);
CREATE INDEX daybook_event_author_id_1ce50c2f ON public.daybook_event USING btree (author_id);
CREATE INDEX daybook_event_habitat_id_44cae51d ON public.daybook_event USING btree (habitat_id);
CREATE INDEX daybook_event_room_id_769588c1 ON public.daybook_event USING btree (room_id);
CREATE INDEX daybook_event_taken_back_by_id_f18735bd ON public.daybook_event USING btree (taken_back_by_id);
CREATE INDEX daybook_instrument_room_id_d15ad6ef ON public.daybook_instrument USING btree (room_id);
CREATE INDEX daybook_letter_keeper_id_def39b77 ON public.daybook_letter USING btree (keeper_id);
CREATE INDEX daybook_letter_notice_id_e162ecfc ON public.daybook_letter USING btree (notice_id);
CREATE INDEX daybook_not_habitat_96c855_idx ON public.daybook_notice USING btree (habitat_id, ended_at);
CREATE INDEX daybook_not_room_id_d26101_idx ON public.daybook_notice USING btree (room_id, ended_at);
CREATE INDEX daybook_notice_animal_id_bcf38737 ON public.daybook_notice USING btree (animal_id);
CREATE INDEX daybook_notice_channel_id_46cd8008 ON public.daybook_notice USING btree (channel_id);
CREATE INDEX daybook_notice_habitat_id_b2adc6aa ON public.daybook_notice USING btree (habitat_id);
CREATE INDEX daybook_notice_quiet_by_id_1dee3f0e ON public.daybook_notice USING btree (quiet_by_id);
CREATE INDEX daybook_notice_room_id_e0ede904 ON public.daybook_notice USING btree (room_id);
CREATE INDEX daybook_qui_animal__738d89_idx ON public.daybook_quiet USING btree (animal_id, until);
CREATE INDEX daybook_quiet_animal_id_9995ddd3 ON public.daybook_quiet USING btree (animal_id);
CREATE INDEX daybook_quiet_author_id_b8faff82 ON public.daybook_quiet USING btree (author_id);
CREATE INDEX daybook_written_at_89d19909 ON public.daybook_written USING btree (at);
CREATE INDEX daybook_written_key_50658736_like ON public.daybook_written USING btree (key varchar_pattern_ops);
CREATE INDEX django_session_expire_date_a5c62663 ON public.django_session USING btree (expire_date);
CREATE INDEX django_session_session_key_c0390e0f_like ON public.django_session USING btree (session_key varchar_pattern_ops);
CREATE INDEX idx_procrastinate_jobs_worker_not_null ON public.procrastinate_jobs USING btree (worker_id) WHERE ((worker_id IS NOT NULL) AND (status = 'doing'::public.procrastinate_job_status));
CREATE INDEX idx_procrastinate_workers_last_heartbeat ON public.procrastinate_workers USING btree (last_heartbeat);
CREATE INDEX keeping_daybookfile_author_id_a31d6e34 ON public.keeping_daybookfile USING btree (author_id);
CREATE INDEX keeping_daybookfile_room_id_cbd0bcf5 ON public.keeping_daybookfile USING btree (room_id);
CREATE INDEX name_trigrams ON public.book_name USING gin (plain public.gin_trgm_ops);
CREATE UNIQUE INDEX one_build_at_a_time ON public.building_build USING btree (habitat_id) WHERE (ended_at IS NULL);
CREATE UNIQUE INDEX one_entry_per_shipped_species ON public.book_entry USING btree (species) WHERE (own_id IS NULL);
CREATE UNIQUE INDEX one_notice_at_a_time ON public.daybook_notice USING btree (room_id, habitat_id, channel_id, animal_id, code, ident) NULLS NOT DISTINCT WHERE (ended_at IS NULL);
CREATE INDEX otp_static_staticdevice_user_id_7f9cff2b ON public.otp_static_staticdevice USING btree (user_id);
CREATE INDEX otp_static_statictoken_device_id_74b7c7d1 ON public.otp_static_statictoken USING btree (device_id);
CREATE INDEX otp_static_statictoken_token_d0a51866 ON public.otp_static_statictoken USING btree (token);
CREATE INDEX otp_static_statictoken_token_d0a51866_like ON public.otp_static_statictoken USING btree (token varchar_pattern_ops);
CREATE INDEX otp_totp_totpdevice_user_id_0fb18292 ON public.otp_totp_totpdevice USING btree (user_id);
CREATE INDEX pantry_change_event_id_e36b4512 ON public.pantry_change USING btree (event_id);
CREATE INDEX pantry_change_lot_id_891c6bc0 ON public.pantry_change USING btree (lot_id);
CREATE INDEX pantry_culture_room_id_247a9a7f ON public.pantry_culture USING btree (room_id);
CREATE INDEX pantry_cultureentry_author_id_4a6af4df ON public.pantry_cultureentry USING btree (author_id);
CREATE INDEX pantry_cultureentry_culture_id_7bfd9e38 ON public.pantry_cultureentry USING btree (culture_id);
CREATE INDEX pantry_delivery_author_id_da891c5b ON public.pantry_delivery USING btree (author_id);
CREATE INDEX pantry_delivery_room_id_679f9970 ON public.pantry_delivery USING btree (room_id);
CREATE INDEX pantry_gutload_room_id_9bc38bfd ON public.pantry_gutload USING btree (room_id);
CREATE INDEX pantry_item_room_id_1d7495d2 ON public.pantry_item USING btree (room_id);
CREATE INDEX pantry_lot_delivery_id_4992c8aa ON public.pantry_lot USING btree (delivery_id);
CREATE INDEX pantry_lot_item_id_cbef7586 ON public.pantry_lot USING btree (item_id);
CREATE INDEX planner_glance_habitat_id_5648ef4d ON public.planner_glance USING btree (habitat_id);
CREATE INDEX planner_planrevision_author_id_f5199769 ON public.planner_planrevision USING btree (author_id);
CREATE INDEX planner_planrevision_habitat_id_7490f40f ON public.planner_planrevision USING btree (habitat_id);
CREATE INDEX planner_planrevision_parent_id_4fe1d418 ON public.planner_planrevision USING btree (parent_id);
CREATE INDEX planner_planrevision_profile_id_3c0e8f49 ON public.planner_planrevision USING btree (profile_id);
CREATE INDEX planner_planversion_habitat_id_45b3d156 ON public.planner_planversion USING btree (habitat_id);
CREATE INDEX planner_planversion_revision_id_ae85dc03 ON public.planner_planversion USING btree (revision_id);
CREATE INDEX planner_profilesnapshot_sha256_0f589e08_like ON public.planner_profilesnapshot USING btree (sha256 varchar_pattern_ops);
CREATE INDEX procrastinate_events_job_id_fkey_v1 ON public.procrastinate_events USING btree (job_id);
CREATE INDEX procrastinate_jobs_id_lock_idx_v1 ON public.procrastinate_jobs USING btree (id, lock) WHERE (status = ANY (ARRAY['todo'::public.procrastinate_job_status, 'doing'::public.procrastinate_job_status]));
CREATE UNIQUE INDEX procrastinate_jobs_lock_idx_v1 ON public.procrastinate_jobs USING btree (lock) WHERE (status = 'doing'::public.procrastinate_job_status);
CREATE INDEX procrastinate_jobs_priority_idx_v1 ON public.procrastinate_jobs USING btree (priority DESC, id) WHERE (status = 'todo'::public.procrastinate_job_status);
CREATE INDEX procrastinate_jobs_queue_name_idx_v1 ON public.procrastinate_jobs USING btree (queue_name);
CREATE UNIQUE INDEX procrastinate_jobs_queueing_lock_idx_v1 ON public.procrastinate_jobs USING btree (queueing_lock) WHERE (status = 'todo'::public.procrastinate_job_status);
CREATE INDEX procrastinate_periodic_defers_job_id_fkey_v1 ON public.procrastinate_periodic_defers USING btree (job_id);
CREATE INDEX reviewing_v_counted_c36ad1_idx ON public.reviewing_visitor USING btree (counted_at);
CREATE INDEX reviewing_visitor_digest_b06cd914_like ON public.reviewing_visitor USING btree (digest varchar_pattern_ops);
CREATE INDEX rooms_animal_father_id_877eee82 ON public.rooms_animal USING btree (father_id);
CREATE INDEX rooms_animal_mother_id_2014821f ON public.rooms_animal USING btree (mother_id);
CREATE INDEX rooms_animal_room_id_e17777dc ON public.rooms_animal USING btree (room_id);
CREATE INDEX rooms_habitat_head_id_0511869d ON public.rooms_habitat USING btree (head_id);
CREATE INDEX rooms_habitat_room_id_14627a30 ON public.rooms_habitat USING btree (room_id);
CREATE INDEX rooms_invitation_made_by_id_1d839faa ON public.rooms_invitation USING btree (made_by_id);
CREATE INDEX rooms_invitation_room_id_d438f3e4 ON public.rooms_invitation USING btree (room_id);
CREATE INDEX rooms_invitation_sha256_77462963_like ON public.rooms_invitation USING btree (sha256 varchar_pattern_ops);
CREATE INDEX rooms_invitation_used_by_id_54c5bf20 ON public.rooms_invitation USING btree (used_by_id);
CREATE INDEX rooms_membership_keeper_id_bc462f15 ON public.rooms_membership USING btree (keeper_id);
CREATE INDEX rooms_membership_room_id_6917d899 ON public.rooms_membership USING btree (room_id);
CREATE INDEX rooms_resid_habitat_e5da58_idx ON public.rooms_residence USING btree (habitat_id, until);
CREATE INDEX rooms_residence_animal_id_e8871681 ON public.rooms_residence USING btree (animal_id);
CREATE INDEX rooms_residence_habitat_id_38cd9597 ON public.rooms_residence USING btree (habitat_id);
CREATE INDEX rooms_seeding_name_c3fde1aa_like ON public.rooms_seeding USING btree (name varchar_pattern_ops);
CREATE INDEX rooms_sitterlink_made_by_id_d416bceb ON public.rooms_sitterlink USING btree (made_by_id);
CREATE INDEX rooms_sitterlink_room_id_338b50e0 ON public.rooms_sitterlink USING btree (room_id);
CREATE INDEX rooms_sitterlink_sha256_402aba6b_like ON public.rooms_sitterlink USING btree (sha256 varchar_pattern_ops);
CREATE INDEX rota_subscription_keeper_id_c1e17bf0 ON public.rota_subscription USING btree (keeper_id);
CREATE INDEX rota_subscription_room_id_eb0827d1 ON public.rota_subscription USING btree (room_id);
CREATE INDEX rota_subscription_sha256_08107ce5_like ON public.rota_subscription USING btree (sha256 varchar_pattern_ops);
CREATE INDEX sample_at_brin ON public.series_sample USING brin (at) WITH (autosummarize='on');
CREATE INDEX series_channel_animal_id_5124d183 ON public.series_channel USING btree (animal_id);
CREATE INDEX series_channel_code_c4cdf45f ON public.series_channel USING btree (code);
CREATE INDEX series_channel_code_c4cdf45f_like ON public.series_channel USING btree (code varchar_pattern_ops);
CREATE INDEX series_channel_habitat_id_4bded145 ON public.series_channel USING btree (habitat_id);
CREATE INDEX series_channel_instrument_id_f5dda919 ON public.series_channel USING btree (instrument_id);
CREATE INDEX series_channel_room_id_9e564fe9 ON public.series_channel USING btree (room_id);
CREATE INDEX series_corr_instrum_bfe4e7_idx ON public.series_correction USING btree (instrument_id, at DESC);
CREATE INDEX series_correction_against_id_96871f9b ON public.series_correction USING btree (against_id);
CREATE INDEX series_correction_author_id_c4e5f52d ON public.series_correction USING btree (author_id);
CREATE INDEX series_correction_instrument_id_983b199d ON public.series_correction USING btree (instrument_id);
CREATE INDEX series_device_digest_76fcbd70_like ON public.series_device USING btree (digest varchar_pattern_ops);
CREATE INDEX series_device_name_in_topics_896c8433_like ON public.series_device USING btree (name_in_topics varchar_pattern_ops);
CREATE INDEX series_device_room_id_1cc65131 ON public.series_device USING btree (room_id);
CREATE INDEX series_tablefile_author_id_6080b07a ON public.series_tablefile USING btree (author_id);
CREATE INDEX series_tablefile_room_id_ba85417b ON public.series_tablefile USING btree (room_id);
CREATE INDEX series_tablemapping_room_id_fcd25211 ON public.series_tablemapping USING btree (room_id);
CREATE INDEX sharing_publicpage_made_by_id_4ff6d891 ON public.sharing_publicpage USING btree (made_by_id);
CREATE INDEX sharing_publicpage_token_0982d2bf_like ON public.sharing_publicpage USING btree (token varchar_pattern_ops);
CREATE INDEX uploads_part_upload_id_75b52159 ON public.uploads_part USING btree (upload_id);
CREATE INDEX uploads_upload_author_id_fdbf7277 ON public.uploads_upload USING btree (author_id);
CREATE INDEX uploads_upload_room_id_f84280fd ON public.uploads_upload USING btree (room_id);
CREATE TRIGGER accounts_happening_stays BEFORE UPDATE ON public.accounts_happening FOR EACH ROW EXECUTE FUNCTION public.accounts_happening_stays();
CREATE TRIGGER procrastinate_jobs_notify_queue_job_aborted_v1 AFTER UPDATE OF abort_requested ON public.procrastinate_jobs FOR EACH ROW WHEN (((old.abort_requested = false) AND (new.abort_requested = true) AND (new.status = 'doing'::public.procrastinate_job_status))) EXECUTE FUNCTION public.procrastinate_notify_queue_abort_job_v1();
CREATE TRIGGER procrastinate_jobs_notify_queue_job_inserted_v1 AFTER INSERT ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.status = 'todo'::public.procrastinate_job_status)) EXECUTE FUNCTION public.procrastinate_notify_queue_job_inserted_v1();
CREATE TRIGGER procrastinate_trigger_abort_requested_events_v1 AFTER UPDATE OF abort_requested ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.abort_requested = true)) EXECUTE FUNCTION public.procrastinate_trigger_abort_requested_events_procedure_v1();
CREATE TRIGGER procrastinate_trigger_delete_jobs_v1 BEFORE DELETE ON public.procrastinate_jobs FOR EACH ROW EXECUTE FUNCTION public.procrastinate_unlink_periodic_defers_v1();
CREATE TRIGGER procrastinate_trigger_scheduled_events_v1 AFTER INSERT OR UPDATE ON public.procrastinate_jobs FOR EACH ROW WHEN (((new.scheduled_at IS NOT NULL) AND (new.status = 'todo'::public.procrastinate_job_status))) EXECUTE FUNCTION public.procrastinate_trigger_function_scheduled_events_v1();
CREATE TRIGGER procrastinate_trigger_status_events_insert_v1 AFTER INSERT ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.status = 'todo'::public.procrastinate_job_status)) EXECUTE FUNCTION public.procrastinate_trigger_function_status_events_insert_v1();
CREATE TRIGGER procrastinate_trigger_status_events_update_v1 AFTER UPDATE OF status ON public.procrastinate_jobs FOR EACH ROW EXECUTE FUNCTION public.procrastinate_trigger_function_status_events_update_v1();
ALTER TABLE ONLY public.accounts_accountinvitation
    ADD CONSTRAINT accounts_accountinvi_made_by_id_ad8b877a_fk_accounts_ FOREIGN KEY (made_by_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_happening
    ADD CONSTRAINT accounts_happening_keeper_id_6f52b39a_fk_accounts_keeper_id FOREIGN KEY (keeper_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_keeper_groups
    ADD CONSTRAINT accounts_keeper_groups_group_id_23b5b2d0_fk_auth_group_id FOREIGN KEY (group_id) REFERENCES public.auth_group(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_keeper_groups
    ADD CONSTRAINT accounts_keeper_groups_keeper_id_0ebd75dc_fk_accounts_keeper_id FOREIGN KEY (keeper_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_keeper_user_permissions
    ADD CONSTRAINT accounts_keeper_user_keeper_id_d0d74e02_fk_accounts_ FOREIGN KEY (keeper_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_keeper_user_permissions
    ADD CONSTRAINT accounts_keeper_user_permission_id_daa63eae_fk_auth_perm FOREIGN KEY (permission_id) REFERENCES public.auth_permission(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.accounts_signedin
    ADD CONSTRAINT accounts_signedin_keeper_id_6e52ff78_fk_accounts_keeper_id FOREIGN KEY (keeper_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.api_answered
    ADD CONSTRAINT api_answered_token_id_8db0fe94_fk_api_token_id FOREIGN KEY (token_id) REFERENCES public.api_token(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.api_delivery
    ADD CONSTRAINT api_delivery_webhook_id_645179c6_fk_api_webhook_id FOREIGN KEY (webhook_id) REFERENCES public.api_webhook(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.api_token
    ADD CONSTRAINT api_token_made_by_id_ef973054_fk_accounts_keeper_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.api_token
    ADD CONSTRAINT api_token_room_id_75379162_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.api_webhook
    ADD CONSTRAINT api_webhook_made_by_id_4988809e_fk_accounts_keeper_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.api_webhook
    ADD CONSTRAINT api_webhook_room_id_0f2b3f73_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.archive_archivefile
    ADD CONSTRAINT archive_archivefile_author_id_afa83e56_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.archive_archivefile
    ADD CONSTRAINT archive_archivefile_room_id_10e92e00_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.archive_archivefile
    ADD CONSTRAINT archive_archivefile_upload_id_bbc31164_fk_uploads_upload_id FOREIGN KEY (upload_id) REFERENCES public.uploads_upload(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.archive_deletion
    ADD CONSTRAINT archive_deletion_animal_id_f48c268b_fk_rooms_animal_id FOREIGN KEY (animal_id) REFERENCES public.rooms_animal(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.archive_deletion
    ADD CONSTRAINT archive_deletion_asked_by_id_e138103e_fk_accounts_keeper_id FOREIGN KEY (asked_by_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.archive_deletion
    ADD CONSTRAINT archive_deletion_habitat_id_3b721a64_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.archive_deletion
    ADD CONSTRAINT archive_deletion_keeper_id_990b6fcf_fk_accounts_keeper_id FOREIGN KEY (keeper_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.archive_deletion
    ADD CONSTRAINT archive_deletion_room_id_55c92b63_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissio_permission_id_84c5c92e_fk_auth_perm FOREIGN KEY (permission_id) REFERENCES public.auth_permission(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_group_id_b120cbf9_fk_auth_group_id FOREIGN KEY (group_id) REFERENCES public.auth_group(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_content_type_id_2f476e4b_fk_django_co FOREIGN KEY (content_type_id) REFERENCES public.django_content_type(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.axes_accessattemptexpiration
    ADD CONSTRAINT axes_accessattemptex_access_attempt_id_6b73a47a_fk_axes_acce FOREIGN KEY (access_attempt_id) REFERENCES public.axes_accessattempt(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.book_entry
    ADD CONSTRAINT book_entry_own_id_70b69178_fk_book_ownprofile_id FOREIGN KEY (own_id) REFERENCES public.book_ownprofile(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.book_name
    ADD CONSTRAINT book_name_entry_id_0c376b0d_fk_book_entry_id FOREIGN KEY (entry_id) REFERENCES public.book_entry(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.book_ownprofile
    ADD CONSTRAINT book_ownprofile_author_id_1d1311ce_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.book_ownprofile
    ADD CONSTRAINT book_ownprofile_room_id_8c71a8ef_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_build
    ADD CONSTRAINT building_build_author_id_34ff3d05_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_build
    ADD CONSTRAINT building_build_habitat_id_c770d847_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_donestep
    ADD CONSTRAINT building_donestep_author_id_3e509c9a_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.building_donestep
    ADD CONSTRAINT building_donestep_build_id_0b15441e_fk_building_build_id FOREIGN KEY (build_id) REFERENCES public.building_build(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_event
    ADD CONSTRAINT daybook_event_animal_id_be8e5a0b_fk_rooms_animal_id FOREIGN KEY (animal_id) REFERENCES public.rooms_animal(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_event
    ADD CONSTRAINT daybook_event_author_id_1ce50c2f_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_event
    ADD CONSTRAINT daybook_event_habitat_id_44cae51d_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_event
    ADD CONSTRAINT daybook_event_replaces_id_1e166e8d_fk_daybook_event_id FOREIGN KEY (replaces_id) REFERENCES public.daybook_event(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_event
    ADD CONSTRAINT daybook_event_room_id_769588c1_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_event
    ADD CONSTRAINT daybook_event_taken_back_by_id_f18735bd_fk_accounts_keeper_id FOREIGN KEY (taken_back_by_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_instrument
    ADD CONSTRAINT daybook_instrument_room_id_d15ad6ef_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_letter
    ADD CONSTRAINT daybook_letter_keeper_id_def39b77_fk_accounts_keeper_id FOREIGN KEY (keeper_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_letter
    ADD CONSTRAINT daybook_letter_notice_id_e162ecfc_fk_daybook_notice_id FOREIGN KEY (notice_id) REFERENCES public.daybook_notice(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_notice
    ADD CONSTRAINT daybook_notice_animal_id_bcf38737_fk_rooms_animal_id FOREIGN KEY (animal_id) REFERENCES public.rooms_animal(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_notice
    ADD CONSTRAINT daybook_notice_channel_id_46cd8008_fk_series_channel_id FOREIGN KEY (channel_id) REFERENCES public.series_channel(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_notice
    ADD CONSTRAINT daybook_notice_habitat_id_b2adc6aa_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_notice
    ADD CONSTRAINT daybook_notice_quiet_by_id_1dee3f0e_fk_accounts_keeper_id FOREIGN KEY (quiet_by_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_notice
    ADD CONSTRAINT daybook_notice_room_id_e0ede904_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_photo
    ADD CONSTRAINT daybook_photo_event_id_9eb95aa1_fk_daybook_event_id FOREIGN KEY (event_id) REFERENCES public.daybook_event(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_quiet
    ADD CONSTRAINT daybook_quiet_animal_id_9995ddd3_fk_rooms_animal_id FOREIGN KEY (animal_id) REFERENCES public.rooms_animal(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.daybook_quiet
    ADD CONSTRAINT daybook_quiet_author_id_b8faff82_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.electrics_roomwiring
    ADD CONSTRAINT electrics_roomwiring_room_id_dfbbc791_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.keeping_daybookfile
    ADD CONSTRAINT keeping_daybookfile_author_id_a31d6e34_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.keeping_daybookfile
    ADD CONSTRAINT keeping_daybookfile_room_id_cbd0bcf5_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.keeping_daybookfile
    ADD CONSTRAINT keeping_daybookfile_upload_id_d6003fe1_fk_uploads_upload_id FOREIGN KEY (upload_id) REFERENCES public.uploads_upload(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.money_roompurse
    ADD CONSTRAINT money_roompurse_room_id_f1de3bfc_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.money_shopping
    ADD CONSTRAINT money_shopping_habitat_id_01b2eeb2_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.otp_static_staticdevice
    ADD CONSTRAINT otp_static_staticdevice_user_id_7f9cff2b_fk_accounts_keeper_id FOREIGN KEY (user_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.otp_static_statictoken
    ADD CONSTRAINT otp_static_statictok_device_id_74b7c7d1_fk_otp_stati FOREIGN KEY (device_id) REFERENCES public.otp_static_staticdevice(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.otp_totp_totpdevice
    ADD CONSTRAINT otp_totp_totpdevice_user_id_0fb18292_fk_accounts_keeper_id FOREIGN KEY (user_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_change
    ADD CONSTRAINT pantry_change_event_id_e36b4512_fk_daybook_event_id FOREIGN KEY (event_id) REFERENCES public.daybook_event(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_change
    ADD CONSTRAINT pantry_change_lot_id_891c6bc0_fk_pantry_lot_id FOREIGN KEY (lot_id) REFERENCES public.pantry_lot(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_culture
    ADD CONSTRAINT pantry_culture_room_id_247a9a7f_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_cultureentry
    ADD CONSTRAINT pantry_cultureentry_author_id_4a6af4df_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_cultureentry
    ADD CONSTRAINT pantry_cultureentry_culture_id_7bfd9e38_fk_pantry_culture_id FOREIGN KEY (culture_id) REFERENCES public.pantry_culture(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_delivery
    ADD CONSTRAINT pantry_delivery_author_id_da891c5b_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_delivery
    ADD CONSTRAINT pantry_delivery_room_id_679f9970_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_freezer
    ADD CONSTRAINT pantry_freezer_room_id_fd31ba6e_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_gutload
    ADD CONSTRAINT pantry_gutload_room_id_9bc38bfd_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_item
    ADD CONSTRAINT pantry_item_room_id_1d7495d2_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_lot
    ADD CONSTRAINT pantry_lot_delivery_id_4992c8aa_fk_pantry_delivery_id FOREIGN KEY (delivery_id) REFERENCES public.pantry_delivery(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.pantry_lot
    ADD CONSTRAINT pantry_lot_item_id_cbef7586_fk_pantry_item_id FOREIGN KEY (item_id) REFERENCES public.pantry_item(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.planner_glance
    ADD CONSTRAINT planner_glance_habitat_id_5648ef4d_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.planner_planrevision
    ADD CONSTRAINT planner_planrevision_author_id_f5199769_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.planner_planrevision
    ADD CONSTRAINT planner_planrevision_habitat_id_7490f40f_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.planner_planrevision
    ADD CONSTRAINT planner_planrevision_parent_id_4fe1d418_fk_planner_p FOREIGN KEY (parent_id) REFERENCES public.planner_planrevision(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.planner_planrevision
    ADD CONSTRAINT planner_planrevision_profile_id_3c0e8f49_fk_planner_p FOREIGN KEY (profile_id) REFERENCES public.planner_profilesnapshot(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.planner_planversion
    ADD CONSTRAINT planner_planversion_habitat_id_45b3d156_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.planner_planversion
    ADD CONSTRAINT planner_planversion_revision_id_ae85dc03_fk_planner_p FOREIGN KEY (revision_id) REFERENCES public.planner_planrevision(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.procrastinate_events
    ADD CONSTRAINT procrastinate_events_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.procrastinate_jobs(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.procrastinate_jobs
    ADD CONSTRAINT procrastinate_jobs_worker_id_fkey FOREIGN KEY (worker_id) REFERENCES public.procrastinate_workers(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.procrastinate_jobs(id);
ALTER TABLE ONLY public.rooms_animal
    ADD CONSTRAINT rooms_animal_father_id_877eee82_fk_rooms_animal_id FOREIGN KEY (father_id) REFERENCES public.rooms_animal(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_company
    ADD CONSTRAINT rooms_animal_habitat_id_63fb99e8_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_animal
    ADD CONSTRAINT rooms_animal_mother_id_2014821f_fk_rooms_animal_id FOREIGN KEY (mother_id) REFERENCES public.rooms_animal(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_animal
    ADD CONSTRAINT rooms_animal_room_id_e17777dc_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_habitat
    ADD CONSTRAINT rooms_habitat_head_id_0511869d_fk_planner_planrevision_id FOREIGN KEY (head_id) REFERENCES public.planner_planrevision(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_habitat
    ADD CONSTRAINT rooms_habitat_room_id_14627a30_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_invitation
    ADD CONSTRAINT rooms_invitation_made_by_id_1d839faa_fk_accounts_keeper_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_invitation
    ADD CONSTRAINT rooms_invitation_room_id_d438f3e4_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_invitation
    ADD CONSTRAINT rooms_invitation_used_by_id_54c5bf20_fk_accounts_keeper_id FOREIGN KEY (used_by_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_membership
    ADD CONSTRAINT rooms_membership_keeper_id_bc462f15_fk_accounts_keeper_id FOREIGN KEY (keeper_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_membership
    ADD CONSTRAINT rooms_membership_room_id_6917d899_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_residence
    ADD CONSTRAINT rooms_residence_animal_id_e8871681_fk_rooms_animal_id FOREIGN KEY (animal_id) REFERENCES public.rooms_animal(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_residence
    ADD CONSTRAINT rooms_residence_habitat_id_38cd9597_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_sitterlink
    ADD CONSTRAINT rooms_sitterlink_keeper_id_2dbe8dd8_fk_accounts_keeper_id FOREIGN KEY (keeper_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_sitterlink
    ADD CONSTRAINT rooms_sitterlink_made_by_id_d416bceb_fk_accounts_keeper_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rooms_sitterlink
    ADD CONSTRAINT rooms_sitterlink_room_id_338b50e0_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rota_rotacard
    ADD CONSTRAINT rota_rotacard_habitat_id_385ec5f4_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rota_subscription
    ADD CONSTRAINT rota_subscription_keeper_id_c1e17bf0_fk_accounts_keeper_id FOREIGN KEY (keeper_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.rota_subscription
    ADD CONSTRAINT rota_subscription_room_id_eb0827d1_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_channel
    ADD CONSTRAINT series_channel_animal_id_5124d183_fk_rooms_animal_id FOREIGN KEY (animal_id) REFERENCES public.rooms_animal(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_channel
    ADD CONSTRAINT series_channel_habitat_id_4bded145_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_channel
    ADD CONSTRAINT series_channel_instrument_id_f5dda919_fk_daybook_instrument_id FOREIGN KEY (instrument_id) REFERENCES public.daybook_instrument(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_channel
    ADD CONSTRAINT series_channel_room_id_9e564fe9_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_correction
    ADD CONSTRAINT series_correction_against_id_96871f9b_fk_daybook_instrument_id FOREIGN KEY (against_id) REFERENCES public.daybook_instrument(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_correction
    ADD CONSTRAINT series_correction_author_id_c4e5f52d_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_correction
    ADD CONSTRAINT series_correction_instrument_id_983b199d_fk_daybook_i FOREIGN KEY (instrument_id) REFERENCES public.daybook_instrument(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_device
    ADD CONSTRAINT series_device_room_id_1cc65131_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_foretoldhour
    ADD CONSTRAINT series_foretoldhour_channel_id_16491cad_fk_series_channel_id FOREIGN KEY (channel_id) REFERENCES public.series_channel(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_hour
    ADD CONSTRAINT series_hour_channel_id_2e96d8ad_fk_series_channel_id FOREIGN KEY (channel_id) REFERENCES public.series_channel(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_sample
    ADD CONSTRAINT series_sample_channel_id_d44cfa93_fk_series_channel_id FOREIGN KEY (channel_id) REFERENCES public.series_channel(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_tablefile
    ADD CONSTRAINT series_tablefile_author_id_6080b07a_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_tablefile
    ADD CONSTRAINT series_tablefile_room_id_ba85417b_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.series_tablemapping
    ADD CONSTRAINT series_tablemapping_room_id_fcd25211_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.sharing_publicpage
    ADD CONSTRAINT sharing_publicpage_habitat_id_0920b411_fk_rooms_habitat_id FOREIGN KEY (habitat_id) REFERENCES public.rooms_habitat(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.sharing_publicpage
    ADD CONSTRAINT sharing_publicpage_made_by_id_4ff6d891_fk_accounts_keeper_id FOREIGN KEY (made_by_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.uploads_part
    ADD CONSTRAINT uploads_part_upload_id_75b52159_fk_uploads_upload_id FOREIGN KEY (upload_id) REFERENCES public.uploads_upload(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.uploads_upload
    ADD CONSTRAINT uploads_upload_author_id_fdbf7277_fk_accounts_keeper_id FOREIGN KEY (author_id) REFERENCES public.accounts_keeper(id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE ONLY public.uploads_upload
    ADD CONSTRAINT uploads_upload_room_id_f84280fd_fk_rooms_room_id FOREIGN KEY (room_id) REFERENCES public.rooms_room(id) DEFERRABLE INITIALLY DEFERRED;
INSERT INTO public.django_migrations (app, name, applied) VALUES
  ('accounts', '0001_initial', now()),
  ('accounts', '0002_decimal_mark', now()),
  ('accounts', '0003_tries_and_links', now()),
  ('accounts', '0004_keeper_letters', now()),
  ('accounts', '0005_sharing', now()),
  ('accounts', '0006_language', now()),
  ('accounts', '0007_sessions_and_happenings', now()),
  ('accounts', '0008_account_invitations', now()),
  ('accounts', '0009_night', now()),
  ('api', '0001_tokens', now()),
  ('api', '0002_webhooks', now()),
  ('archive', '0001_archive_files', now()),
  ('archive', '0002_deletions', now()),
  ('auth', '0001_initial', now()),
  ('auth', '0002_alter_permission_name_max_length', now()),
  ('auth', '0003_alter_user_email_max_length', now()),
  ('auth', '0004_alter_user_username_opts', now()),
  ('auth', '0005_alter_user_last_login_null', now()),
  ('auth', '0006_require_contenttypes_0002', now()),
  ('auth', '0007_alter_validators_add_error_messages', now()),
  ('auth', '0008_alter_user_username_max_length', now()),
  ('auth', '0009_alter_user_last_name_max_length', now()),
  ('auth', '0010_alter_group_name_max_length', now()),
  ('auth', '0011_update_proxy_permissions', now()),
  ('auth', '0012_alter_user_first_name_max_length', now()),
  ('axes', '0001_initial', now()),
  ('axes', '0002_auto_20151217_2044', now()),
  ('axes', '0003_auto_20160322_0929', now()),
  ('axes', '0004_auto_20181024_1538', now()),
  ('axes', '0005_remove_accessattempt_trusted', now()),
  ('axes', '0006_remove_accesslog_trusted', now()),
  ('axes', '0007_alter_accessattempt_unique_together', now()),
  ('axes', '0008_accessfailurelog', now()),
  ('axes', '0009_add_session_hash', now()),
  ('axes', '0010_accessattemptexpiration', now()),
  ('book', '0001_own_profiles_and_catalogue', now()),
  ('building', '0001_builds', now()),
  ('building', '0002_seen', now()),
  ('contenttypes', '0001_initial', now()),
  ('contenttypes', '0002_remove_content_type_name', now()),
  ('daybook', '0001_initial', now()),
  ('daybook', '0002_initial', now()),
  ('daybook', '0003_instruments', now()),
  ('daybook', '0004_alter_event_kind', now()),
  ('daybook', '0005_written', now()),
  ('daybook', '0006_entries_of_animals', now()),
  ('daybook', '0007_quiet', now()),
  ('daybook', '0008_notices', now()),
  ('daybook', '0009_notices_of_channels', now()),
  ('daybook', '0010_builds', now()),
  ('daybook', '0011_sharing', now()),
  ('electrics', '0001_wiring', now()),
  ('keeping', '0001_daybook_files', now()),
  ('money', '0001_prices', now()),
  ('otp_static', '0001_initial', now()),
  ('otp_static', '0002_throttling', now()),
  ('otp_static', '0003_add_timestamps', now()),
  ('otp_totp', '0001_initial', now()),
  ('otp_totp', '0002_auto_20190420_0723', now()),
  ('otp_totp', '0003_add_timestamps', now()),
  ('pantry', '0001_initial', now()),
  ('pantry', '0002_deliveries', now()),
  ('pantry', '0003_cultures', now()),
  ('planner', '0001_initial', now()),
  ('planner', '0002_initial', now()),
  ('planner', '0003_written', now()),
  ('planner', '0004_glances', now()),
  ('planner', '0005_follows', now()),
  ('planner', '0006_told', now()),
  ('procrastinate', '0001_initial', now()),
  ('procrastinate', '0002_drop_started_at_column', now()),
  ('procrastinate', '0003_drop_started_at_column', now()),
  ('procrastinate', '0004_drop_procrastinate_version_table', now()),
  ('procrastinate', '0005_fix_procrastinate_fetch_job', now()),
  ('procrastinate', '0006_fix_trigger_status_events_insert', now()),
  ('procrastinate', '0007_add_queueing_lock_column', now()),
  ('procrastinate', '0008_close_fetch_job_race_condition', now()),
  ('procrastinate', '0009_add_defer_job_function', now()),
  ('procrastinate', '0010_add_procrastinate_periodic_defers', now()),
  ('procrastinate', '0011_add_foreign_key_index', now()),
  ('procrastinate', '0012_add_locks_to_periodic_defer', now()),
  ('procrastinate', '0013_fix_procrastinate_defer_periodic_job', now()),
  ('procrastinate', '0014_add_finish_job_and_retry_job_functions', now()),
  ('procrastinate', '0015_add_trigger_on_job_deletion', now()),
  ('procrastinate', '0016_delete_finished_jobs', now()),
  ('procrastinate', '0017_add_checks_to_finish_job', now()),
  ('procrastinate', '0018_add_checks_to_retry_job', now()),
  ('procrastinate', '0019_fix_finish_job_compat_issue', now()),
  ('procrastinate', '0020_add_index_on_procrastinate_jobs', now()),
  ('procrastinate', '0021_add_kwargs_to_defer_periodic_job', now()),
  ('procrastinate', '0022_null_locks_excluded', now()),
  ('procrastinate', '0023_remove_old_finish_job_function', now()),
  ('procrastinate', '0024_job_id_bigint', now()),
  ('procrastinate', '0025_add_models', now()),
  ('procrastinate', '0026_add_job_priority', now()),
  ('procrastinate', '0027_add_periodic_job_priority', now()),
  ('procrastinate', '0028_add_cancel_states', now()),
  ('procrastinate', '0029_add_additional_params_to_retry_job', now()),
  ('procrastinate', '0030_alter_procrastinateevent_options', now()),
  ('procrastinate', '0031_add_indexes_for_fetch_job', now()),
  ('procrastinate', '0032_pre_cancel_notification', now()),
  ('procrastinate', '0033_post_cancel_notification', now()),
  ('procrastinate', '0034_pre_add_heartbeat', now()),
  ('procrastinate', '0035_post_add_heartbeat', now()),
  ('procrastinate', '0036_add_worker_model', now()),
  ('procrastinate', '0037_pre_batch_defer_jobs', now()),
  ('procrastinate', '0038_post_batch_defer_jobs', now()),
  ('procrastinate', '0039_pre_priority_lock_fetch_job', now()),
  ('procrastinate', '0040_pre_retry_failed_job', now()),
  ('procrastinate', '0041_post_retry_failed_job', now()),
  ('reviewing', '0001_visitors', now()),
  ('rooms', '0001_initial', now()),
  ('rooms', '0002_company', now()),
  ('rooms', '0003_more_heaters', now()),
  ('rooms', '0004_habitat_logged_room_weekdays', now()),
  ('rooms', '0005_names_of_a_group_lamps_that_burn_twice', now()),
  ('rooms', '0006_into_the_document', now()),
  ('rooms', '0007_the_document_alone', now()),
  ('rooms', '0008_room_climate', now()),
  ('rooms', '0009_company', now()),
  ('rooms', '0010_animals_and_residences', now()),
  ('rooms', '0011_who_lives_here', now()),
  ('rooms', '0012_habitat_place', now()),
  ('rooms', '0013_habitat_learns_by_itself', now()),
  ('rooms', '0014_sharing', now()),
  ('rooms', '0015_raw_days', now()),
  ('rota', '0001_initial', now()),
  ('rota', '0002_by_day', now()),
  ('series', '0001_initial', now()),
  ('series', '0002_sample_brin', now()),
  ('sessions', '0001_initial', now()),
  ('sharing', '0001_public_page', now()),
  ('uploads', '0001_long_files', now()),
  ('uploads', '0002_of_no_room', now());
