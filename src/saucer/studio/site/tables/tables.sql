-- of the migrations 41b93f4ba9e03a2c
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

CREATE FUNCTION public.catalogue_note_change() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    -- The name of the column that holds the entry comes from the trigger below, never from a row.
    EXECUTE format(
        'INSERT INTO catalogue_entrychange (xid, entry) SELECT DISTINCT pg_current_xact_id()::text::bigint, %I FROM changed', TG_ARGV[0]
    );
    RETURN NULL;
END $$;

CREATE FUNCTION public.catalogue_version_stays() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    IF (NEW.id, NEW.entry_id, NEW.number, NEW.content, NEW.content_hash, NEW.note, NEW.made)
        IS DISTINCT FROM (OLD.id, OLD.entry_id, OLD.number, OLD.content, OLD.content_hash, OLD.note, OLD.made) THEN
        RAISE EXCEPTION 'of a version that is made only the state may change (version %)', OLD.id USING ERRCODE = 'restrict_violation';
    END IF;
    RETURN NEW;
END $$;

CREATE FUNCTION public.luts_note_files() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
BEGIN
    INSERT INTO catalogue_entrychange (xid, entry) SELECT DISTINCT pg_current_xact_id()::text::bigint, version.entry_id
    FROM changed JOIN luts_lut lut ON lut.id = changed.lut_id JOIN catalogue_version version ON version.id = lut.version_id;
    RETURN NULL;
END $$;

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

CREATE TABLE public.account_emailaddress (
    id integer NOT NULL,
    email character varying(254) NOT NULL,
    verified boolean NOT NULL,
    "primary" boolean NOT NULL,
    user_id bigint NOT NULL
);

ALTER TABLE public.account_emailaddress ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.account_emailaddress_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.account_emailconfirmation (
    id integer NOT NULL,
    created timestamp with time zone NOT NULL,
    sent timestamp with time zone,
    key character varying(64) NOT NULL,
    email_address_id integer NOT NULL
);

ALTER TABLE public.account_emailconfirmation ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.account_emailconfirmation_id_seq
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

CREATE TABLE public.boards_board (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    shuffle integer NOT NULL,
    revision integer NOT NULL,
    created timestamp with time zone NOT NULL,
    changed timestamp with time zone NOT NULL,
    deleted timestamp with time zone,
    owner_id bigint,
    CONSTRAINT boards_board_revision_check CHECK ((revision >= 0)),
    CONSTRAINT boards_board_shuffle_check CHECK ((shuffle >= 0))
);

ALTER TABLE public.boards_board ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.boards_board_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.boards_boardentry (
    id bigint NOT NULL,
    "position" smallint NOT NULL,
    board_id bigint NOT NULL,
    entry_id bigint NOT NULL,
    CONSTRAINT boards_boardentry_position_check CHECK (("position" >= 0))
);

ALTER TABLE public.boards_boardentry ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.boards_boardentry_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.boards_boardpicture (
    id bigint NOT NULL,
    "position" smallint NOT NULL,
    board_id bigint NOT NULL,
    picture_id bigint NOT NULL,
    CONSTRAINT boards_boardpicture_position_check CHECK (("position" >= 0))
);

ALTER TABLE public.boards_boardpicture ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.boards_boardpicture_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.boards_verdict (
    id bigint NOT NULL,
    choice character varying(5) NOT NULL,
    note character varying(1000) NOT NULL,
    said_of character varying(64) NOT NULL,
    at timestamp with time zone NOT NULL,
    board_id bigint NOT NULL,
    entry_id bigint NOT NULL,
    person_id bigint NOT NULL,
    CONSTRAINT choice_of_a_verdict CHECK (((choice)::text = ANY ((ARRAY[''::character varying, 'maybe'::character varying, 'no'::character varying, 'yes'::character varying])::text[])))
);

ALTER TABLE public.boards_verdict ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.boards_verdict_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.cache (
    cache_key character varying(255) NOT NULL,
    value text NOT NULL,
    expires timestamp with time zone NOT NULL
);

CREATE TABLE public.catalogue_category (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    path character varying(400) NOT NULL,
    depth smallint NOT NULL,
    parent_id bigint,
    CONSTRAINT catalogue_category_depth_check CHECK ((depth >= 0)),
    CONSTRAINT category_has_a_name CHECK ((NOT ((name)::text = ANY ((ARRAY[''::character varying, '.'::character varying, '..'::character varying])::text[]))))
);

ALTER TABLE public.catalogue_category ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_category_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_character (
    entry_id bigint NOT NULL,
    measured_as character varying(64) NOT NULL,
    warmth double precision NOT NULL,
    lightness double precision NOT NULL,
    contrast double precision NOT NULL,
    colour double precision NOT NULL,
    black double precision NOT NULL,
    white double precision NOT NULL,
    skin double precision NOT NULL,
    strength double precision NOT NULL,
    words character varying(20)[] NOT NULL,
    seen bytea NOT NULL,
    view character varying(10) NOT NULL,
    beyond character varying(64) NOT NULL,
    CONSTRAINT black_is_a_number CHECK (((black >= ('-1000000.0'::numeric)::double precision) AND (black <= (1000000.0)::double precision))),
    CONSTRAINT colour_is_a_number CHECK (((colour >= ('-1000000.0'::numeric)::double precision) AND (colour <= (1000000.0)::double precision))),
    CONSTRAINT contrast_is_a_number CHECK (((contrast >= ('-1000000.0'::numeric)::double precision) AND (contrast <= (1000000.0)::double precision))),
    CONSTRAINT lightness_is_a_number CHECK (((lightness >= ('-1000000.0'::numeric)::double precision) AND (lightness <= (1000000.0)::double precision))),
    CONSTRAINT skin_is_a_number CHECK (((skin >= ('-1000000.0'::numeric)::double precision) AND (skin <= (1000000.0)::double precision))),
    CONSTRAINT strength_is_a_number CHECK (((strength >= ('-1000000.0'::numeric)::double precision) AND (strength <= (1000000.0)::double precision))),
    CONSTRAINT view_of_a_character CHECK (((view)::text = ANY ((ARRAY['plain'::character varying, 'soft'::character varying])::text[]))),
    CONSTRAINT warmth_is_a_number CHECK (((warmth >= ('-1000000.0'::numeric)::double precision) AND (warmth <= (1000000.0)::double precision))),
    CONSTRAINT white_is_a_number CHECK (((white >= ('-1000000.0'::numeric)::double precision) AND (white <= (1000000.0)::double precision)))
);

CREATE TABLE public.catalogue_entry (
    id bigint NOT NULL,
    kind character varying(8) NOT NULL,
    name character varying(120) NOT NULL,
    author character varying(120) NOT NULL,
    note text NOT NULL,
    source character varying(300) NOT NULL,
    licence character varying(200) NOT NULL,
    may_pass_on character varying(8) NOT NULL,
    pass_on_until date,
    document text NOT NULL,
    created timestamp with time zone NOT NULL,
    shown_at timestamp with time zone NOT NULL,
    shown_hash character varying(64) NOT NULL,
    deleted timestamp with time zone,
    category_id bigint,
    owner_id bigint,
    latest_id bigint,
    published_id bigint,
    expects character varying(40) NOT NULL,
    formats character varying(12)[] NOT NULL,
    gives character varying(40) NOT NULL,
    health character varying(8) NOT NULL,
    state character varying(10) NOT NULL,
    merged_into_id bigint,
    uses character varying(64)[],
    begun boolean NOT NULL,
    proposed boolean NOT NULL,
    seen_by character varying(8) NOT NULL,
    holds character varying(8) NOT NULL,
    CONSTRAINT health_of_an_entry CHECK (((health)::text = ANY ((ARRAY[''::character varying, 'bad'::character varying, 'fine'::character varying, 'notice'::character varying])::text[]))),
    CONSTRAINT kind_of_an_entry CHECK (((kind)::text = ANY ((ARRAY['look'::character varying, 'lut'::character varying, 'preset'::character varying])::text[]))),
    CONSTRAINT note_of_an_entry CHECK ((length(note) <= 2000)),
    CONSTRAINT state_of_an_entry CHECK (((state)::text = ANY ((ARRAY['draft'::character varying, 'proposed'::character varying, 'published'::character varying, 'retired'::character varying, 'sent back'::character varying])::text[]))),
    CONSTRAINT until_when_an_entry_may_be_passed_on CHECK (((pass_on_until >= '1970-01-01'::date) AND (pass_on_until <= '2200-12-31'::date))),
    CONSTRAINT whether_a_look_holds CHECK (((holds)::text = ANY ((ARRAY[''::character varying, 'breaks'::character varying, 'holds'::character varying])::text[]))),
    CONSTRAINT whether_an_entry_may_be_passed_on CHECK (((may_pass_on)::text = ANY ((ARRAY['no'::character varying, 'unknown'::character varying, 'yes'::character varying])::text[]))),
    CONSTRAINT who_sees_an_entry CHECK (((seen_by)::text = ANY ((ARRAY['chosen'::character varying, 'owner'::character varying, 'studio'::character varying])::text[])))
);

CREATE TABLE public.catalogue_entry_favourite_of (
    id bigint NOT NULL,
    entry_id bigint NOT NULL,
    person_id bigint NOT NULL
);

ALTER TABLE public.catalogue_entry_favourite_of ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_entry_favourite_of_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

ALTER TABLE public.catalogue_entry ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_entry_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_entry_tags (
    id bigint NOT NULL,
    entry_id bigint NOT NULL,
    tag_id bigint NOT NULL
);

ALTER TABLE public.catalogue_entry_tags ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_entry_tags_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_entrychange (
    id bigint NOT NULL,
    xid bigint NOT NULL,
    entry bigint NOT NULL,
    made timestamp with time zone DEFAULT statement_timestamp() NOT NULL
);

ALTER TABLE public.catalogue_entrychange ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_entrychange_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_keptapart (
    id bigint NOT NULL,
    first_id bigint NOT NULL,
    person_id bigint,
    second_id bigint NOT NULL,
    CONSTRAINT kept_apart_in_order CHECK ((first_id < second_id))
);

ALTER TABLE public.catalogue_keptapart ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_keptapart_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_notice (
    id bigint NOT NULL,
    words character varying(300) NOT NULL,
    at timestamp with time zone NOT NULL,
    seen timestamp with time zone,
    by_id bigint,
    person_id bigint NOT NULL,
    version_id bigint NOT NULL,
    about character varying(8) NOT NULL,
    CONSTRAINT about_of_a_notice CHECK (((about)::text = ANY ((ARRAY['decision'::character varying, 'proposal'::character varying, 'remark'::character varying])::text[])))
);

ALTER TABLE public.catalogue_notice ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_notice_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_pin (
    id bigint NOT NULL,
    x double precision,
    y double precision,
    words character varying(2000) NOT NULL,
    at timestamp with time zone NOT NULL,
    settled timestamp with time zone,
    answers_id bigint,
    person_id bigint,
    picture_id bigint,
    settled_by_id bigint,
    version_id bigint NOT NULL,
    guest character varying(80) NOT NULL,
    CONSTRAINT pin_within_its_picture CHECK ((((x IS NULL) AND (y IS NULL)) OR ((x >= (0.0)::double precision) AND (x <= (1.0)::double precision) AND (y >= (0.0)::double precision) AND (y <= (1.0)::double precision))))
);

ALTER TABLE public.catalogue_pin ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_pin_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_review (
    id bigint NOT NULL,
    was character varying(10) NOT NULL,
    became character varying(10) NOT NULL,
    words character varying(2000) NOT NULL,
    at timestamp with time zone NOT NULL,
    person_id bigint,
    version_id bigint NOT NULL,
    CONSTRAINT what_a_review_became CHECK (((became)::text = ANY ((ARRAY['draft'::character varying, 'proposed'::character varying, 'published'::character varying, 'retired'::character varying, 'sent back'::character varying])::text[]))),
    CONSTRAINT what_a_review_was CHECK (((was)::text = ANY ((ARRAY['draft'::character varying, 'proposed'::character varying, 'published'::character varying, 'retired'::character varying, 'sent back'::character varying])::text[])))
);

ALTER TABLE public.catalogue_review ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_review_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_savedview (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    address character varying(2000) NOT NULL,
    shared boolean NOT NULL,
    made timestamp with time zone NOT NULL,
    owner_id bigint NOT NULL
);

ALTER TABLE public.catalogue_savedview ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_savedview_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_share (
    id bigint NOT NULL,
    entry_id bigint NOT NULL,
    person_id bigint,
    project_id bigint,
    CONSTRAINT shared_with_one CHECK ((((person_id IS NULL) AND (project_id IS NOT NULL)) OR ((person_id IS NOT NULL) AND (project_id IS NULL))))
);

ALTER TABLE public.catalogue_share ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_share_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_spelling (
    word character varying(40) NOT NULL
);

CREATE TABLE public.catalogue_tag (
    id bigint NOT NULL,
    name character varying(40) NOT NULL
);

ALTER TABLE public.catalogue_tag ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_tag_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.catalogue_version (
    id bigint NOT NULL,
    number integer NOT NULL,
    content jsonb,
    content_hash character varying(64) NOT NULL,
    note character varying(1000) NOT NULL,
    state character varying(10) NOT NULL,
    made timestamp with time zone NOT NULL,
    entry_id bigint NOT NULL,
    from_version_id bigint,
    made_by_id bigint,
    CONSTRAINT catalogue_version_number_check CHECK ((number >= 0)),
    CONSTRAINT state_of_a_version CHECK (((state)::text = ANY ((ARRAY['draft'::character varying, 'proposed'::character varying, 'published'::character varying, 'retired'::character varying, 'sent back'::character varying])::text[])))
);

ALTER TABLE public.catalogue_version ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.catalogue_version_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.common_blob (
    sha256 character varying(64) NOT NULL,
    bytes bigint NOT NULL,
    made timestamp with time zone NOT NULL
);

CREATE TABLE public.common_clock (
    id bigint NOT NULL,
    seen timestamp with time zone NOT NULL,
    moved_from timestamp with time zone,
    moved_at timestamp with time zone
);

ALTER TABLE public.common_clock ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.common_clock_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.common_unreadable (
    id bigint NOT NULL,
    kind character varying(40) NOT NULL,
    key character varying(64) NOT NULL,
    name character varying(200) NOT NULL,
    problem character varying(300) NOT NULL,
    at timestamp with time zone NOT NULL
);

ALTER TABLE public.common_unreadable ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.common_unreadable_id_seq
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

CREATE TABLE public.encodings_teamencoding (
    id bigint NOT NULL,
    encoding_id character varying(40) NOT NULL,
    definition jsonb NOT NULL,
    created timestamp with time zone NOT NULL,
    owner_id bigint
);

ALTER TABLE public.encodings_teamencoding ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.encodings_teamencoding_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.guests_galleryentry (
    id bigint NOT NULL,
    "position" smallint NOT NULL,
    entry_id bigint NOT NULL,
    link_id bigint NOT NULL,
    CONSTRAINT guests_galleryentry_position_check CHECK (("position" >= 0))
);

ALTER TABLE public.guests_galleryentry ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.guests_galleryentry_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.guests_gallerypicture (
    id bigint NOT NULL,
    "position" smallint NOT NULL,
    picture_id bigint NOT NULL,
    link_id bigint NOT NULL,
    CONSTRAINT guests_gallerypicture_position_check CHECK (("position" >= 0))
);

ALTER TABLE public.guests_gallerypicture ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.guests_gallerypicture_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.guests_guest (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    key_hash character varying(64) NOT NULL,
    address inet,
    came timestamp with time zone NOT NULL,
    minute timestamp with time zone,
    in_minute integer NOT NULL,
    link_id bigint NOT NULL,
    CONSTRAINT calls_of_a_guest_in_a_minute CHECK (((in_minute >= 0) AND (in_minute <= 1000000))),
    CONSTRAINT guests_guest_in_minute_check CHECK ((in_minute >= 0))
);

ALTER TABLE public.guests_guest ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.guests_guest_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.guests_guestlink (
    id bigint NOT NULL,
    shows character varying(8) NOT NULL,
    name character varying(120) NOT NULL,
    words character varying(500) NOT NULL,
    code_hash character varying(64) NOT NULL,
    password character varying(128) NOT NULL,
    stamp boolean NOT NULL,
    until timestamp with time zone NOT NULL,
    made timestamp with time zone NOT NULL,
    revoked timestamp with time zone,
    board_id bigint,
    made_by_id bigint,
    project_id bigint,
    CONSTRAINT a_guest_link_shows_one_thing CHECK ((((board_id IS NOT NULL) AND (project_id IS NULL) AND ((shows)::text = 'board'::text)) OR ((board_id IS NULL) AND (project_id IS NOT NULL) AND ((shows)::text = 'wall'::text)) OR ((board_id IS NULL) AND (project_id IS NULL) AND ((shows)::text = 'gallery'::text)))),
    CONSTRAINT what_a_guest_link_shows CHECK (((shows)::text = ANY ((ARRAY['board'::character varying, 'gallery'::character varying, 'wall'::character varying])::text[])))
);

ALTER TABLE public.guests_guestlink ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.guests_guestlink_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.guests_guestremark (
    id bigint NOT NULL,
    guest_id bigint NOT NULL,
    note_id bigint,
    pin_id bigint,
    CONSTRAINT remark_of_a_guest_is_one CHECK ((((note_id IS NOT NULL) AND (pin_id IS NULL)) OR ((note_id IS NULL) AND (pin_id IS NOT NULL))))
);

ALTER TABLE public.guests_guestremark ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.guests_guestremark_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.guests_guestverdict (
    id bigint NOT NULL,
    choice character varying(5) NOT NULL,
    said_of character varying(64) NOT NULL,
    at timestamp with time zone NOT NULL,
    entry_id bigint,
    guest_id bigint NOT NULL,
    shot_id bigint,
    CONSTRAINT choice_of_a_guest CHECK (((choice)::text = ANY ((ARRAY[''::character varying, 'maybe'::character varying, 'no'::character varying, 'yes'::character varying])::text[]))),
    CONSTRAINT verdict_of_a_guest_on_one CHECK ((((entry_id IS NULL) AND (shot_id IS NOT NULL)) OR ((entry_id IS NOT NULL) AND (shot_id IS NULL))))
);

ALTER TABLE public.guests_guestverdict ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.guests_guestverdict_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.hooks_call (
    id bigint NOT NULL,
    event character varying(10) NOT NULL,
    body jsonb NOT NULL,
    state character varying(8) NOT NULL,
    attempts smallint NOT NULL,
    status smallint,
    problem character varying(300) NOT NULL,
    at timestamp with time zone NOT NULL,
    due timestamp with time zone NOT NULL,
    hook_id bigint NOT NULL,
    CONSTRAINT event_of_a_call CHECK (((event)::text = ANY ((ARRAY['delivered'::character varying, 'proposed'::character varying, 'published'::character varying, 'retired'::character varying, 'tried'::character varying])::text[]))),
    CONSTRAINT hooks_call_attempts_check CHECK ((attempts >= 0)),
    CONSTRAINT hooks_call_status_check CHECK ((status >= 0)),
    CONSTRAINT state_of_a_call CHECK (((state)::text = ANY ((ARRAY['done'::character varying, 'given up'::character varying, 'waiting'::character varying])::text[])))
);

ALTER TABLE public.hooks_call ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.hooks_call_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.hooks_hook (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    url character varying(500) NOT NULL,
    events character varying(10)[] NOT NULL,
    secret character varying(64) NOT NULL,
    is_on boolean NOT NULL,
    made timestamp with time zone NOT NULL,
    made_by_id bigint,
    CONSTRAINT events_of_a_hook CHECK (((events <@ ARRAY['proposed'::character varying(10), 'published'::character varying(10), 'retired'::character varying(10), 'delivered'::character varying(10)]) AND (
CASE
    WHEN (events IS NULL) THEN NULL::integer
    ELSE COALESCE(array_length(events, 1), 0)
END >= 1)))
);

ALTER TABLE public.hooks_hook ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.hooks_hook_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.jobs_job (
    id bigint NOT NULL,
    kind character varying(20) NOT NULL,
    parameters jsonb NOT NULL,
    state character varying(12) NOT NULL,
    progress double precision NOT NULL,
    result jsonb,
    problem character varying(1000) NOT NULL,
    created timestamp with time zone NOT NULL,
    finished timestamp with time zone,
    person_id bigint NOT NULL,
    attempts smallint NOT NULL,
    parent_id bigint,
    CONSTRAINT jobs_job_attempts_check CHECK ((attempts >= 0)),
    CONSTRAINT progress_of_a_job CHECK (((progress >= (0.0)::double precision) AND (progress <= (1.0)::double precision))),
    CONSTRAINT state_of_a_job CHECK (((state)::text = ANY ((ARRAY['cancelled'::character varying, 'done'::character varying, 'failed'::character varying, 'running'::character varying, 'waiting'::character varying])::text[])))
);

CREATE TABLE public.jobs_job_blobs (
    id bigint NOT NULL,
    job_id bigint NOT NULL,
    blob_id character varying(64) NOT NULL
);

ALTER TABLE public.jobs_job_blobs ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.jobs_job_blobs_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

ALTER TABLE public.jobs_job ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.jobs_job_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.looks_lookdraft (
    entry_id bigint NOT NULL,
    content jsonb NOT NULL,
    hash character varying(64) NOT NULL,
    revision integer NOT NULL,
    edited timestamp with time zone NOT NULL,
    edited_by_id bigint,
    CONSTRAINT looks_lookdraft_revision_check CHECK ((revision >= 0))
);

CREATE TABLE public.looks_presence (
    id bigint NOT NULL,
    page character varying(40) NOT NULL,
    edited timestamp with time zone,
    seen timestamp with time zone NOT NULL,
    look_id bigint NOT NULL,
    person_id bigint NOT NULL
);

ALTER TABLE public.looks_presence ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.looks_presence_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.luts_lut (
    id bigint NOT NULL,
    choice jsonb,
    kind character varying(60) NOT NULL,
    size integer NOT NULL,
    expects character varying(40) NOT NULL,
    gives character varying(40) NOT NULL,
    known character varying(10) NOT NULL,
    health character varying(9) NOT NULL,
    health_words character varying(300) NOT NULL,
    sample bytea NOT NULL,
    bucket integer NOT NULL,
    made_by character varying(40) NOT NULL,
    facts jsonb NOT NULL,
    made timestamp with time zone NOT NULL,
    version_id bigint NOT NULL,
    CONSTRAINT health_of_a_lut CHECK (((health)::text = ANY ((ARRAY['bad'::character varying, 'fine'::character varying, 'notice'::character varying])::text[]))),
    CONSTRAINT how_a_lut_is_known CHECK (((known)::text = ANY ((ARRAY['asked'::character varying, 'baked'::character varying, 'declared'::character varying, 'guessed'::character varying, 'said'::character varying])::text[]))),
    CONSTRAINT luts_lut_size_check CHECK ((size >= 0)),
    CONSTRAINT size_of_a_lut CHECK (((size >= 0) AND (size <= 1000000)))
);

ALTER TABLE public.luts_lut ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.luts_lut_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.luts_lutfile (
    id bigint NOT NULL,
    "position" smallint NOT NULL,
    format character varying(20) NOT NULL,
    file_name character varying(255) NOT NULL,
    size integer NOT NULL,
    facts jsonb NOT NULL,
    blob_id character varying(64) NOT NULL,
    lut_id bigint NOT NULL,
    CONSTRAINT luts_lutfile_position_check CHECK (("position" >= 0)),
    CONSTRAINT luts_lutfile_size_check CHECK ((size >= 0))
);

ALTER TABLE public.luts_lutfile ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.luts_lutfile_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.luts_pack (
    id bigint NOT NULL,
    created timestamp with time zone NOT NULL,
    job_id bigint NOT NULL,
    person_id bigint NOT NULL
);

ALTER TABLE public.luts_pack ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.luts_pack_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.luts_packrow (
    id bigint NOT NULL,
    index integer NOT NULL,
    found jsonb NOT NULL,
    corrected jsonb NOT NULL,
    sample bytea,
    bucket integer,
    blob_id character varying(64),
    kept_id bigint,
    pack_id bigint NOT NULL,
    CONSTRAINT luts_packrow_index_check CHECK ((index >= 0))
);

ALTER TABLE public.luts_packrow ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.luts_packrow_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.mfa_authenticator (
    id bigint NOT NULL,
    type character varying(20) NOT NULL,
    data jsonb NOT NULL,
    user_id bigint NOT NULL,
    created_at timestamp with time zone NOT NULL,
    last_used_at timestamp with time zone
);

ALTER TABLE public.mfa_authenticator ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.mfa_authenticator_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.people_activity (
    id bigint NOT NULL,
    at timestamp with time zone NOT NULL,
    action character varying(40) NOT NULL,
    about_kind character varying(20) NOT NULL,
    about_id bigint,
    about character varying(200) NOT NULL,
    data jsonb NOT NULL,
    person_id bigint,
    address inet,
    token character varying(80) NOT NULL
);

ALTER TABLE public.people_activity ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.people_activity_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.people_link (
    id bigint NOT NULL,
    purpose character varying(8) NOT NULL,
    code_hash character varying(64) NOT NULL,
    role character varying(12) NOT NULL,
    full_name character varying(120) NOT NULL,
    email character varying(254) NOT NULL,
    made timestamp with time zone NOT NULL,
    until timestamp with time zone NOT NULL,
    used timestamp with time zone,
    made_by_id bigint,
    person_id bigint,
    CONSTRAINT purpose_of_a_link CHECK (((purpose)::text = ANY ((ARRAY['first'::character varying, 'invite'::character varying, 'password'::character varying])::text[]))),
    CONSTRAINT role_of_a_link CHECK (((role)::text = ANY ((ARRAY['admin'::character varying, 'curator'::character varying, 'designer'::character varying, 'viewer'::character varying])::text[])))
);

ALTER TABLE public.people_link ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.people_link_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.people_person (
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
    role character varying(12) NOT NULL,
    full_name character varying(120) NOT NULL,
    is_service boolean NOT NULL,
    seen timestamp with time zone,
    is_mailed boolean NOT NULL,
    mailed_up_to bigint NOT NULL,
    told_of character varying(8)[] NOT NULL,
    is_new boolean NOT NULL,
    CONSTRAINT role_of_a_person CHECK (((role)::text = ANY ((ARRAY['admin'::character varying, 'curator'::character varying, 'designer'::character varying, 'viewer'::character varying])::text[]))),
    CONSTRAINT what_a_person_is_told_of CHECK ((told_of <@ ARRAY['proposal'::character varying(8), 'decision'::character varying(8), 'remark'::character varying(8)]))
);

CREATE TABLE public.people_person_groups (
    id bigint NOT NULL,
    person_id bigint NOT NULL,
    group_id integer NOT NULL
);

ALTER TABLE public.people_person_groups ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.people_person_groups_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

ALTER TABLE public.people_person ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.people_person_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.people_person_user_permissions (
    id bigint NOT NULL,
    person_id bigint NOT NULL,
    permission_id integer NOT NULL
);

ALTER TABLE public.people_person_user_permissions ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.people_person_user_permissions_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.people_studio (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    second_factor character varying(10) NOT NULL,
    begun boolean NOT NULL,
    delivery character varying(40) NOT NULL,
    drafts character varying(6) NOT NULL,
    person_gb integer NOT NULL,
    project_gb integer NOT NULL,
    skin smallint NOT NULL,
    stress_limits jsonb NOT NULL,
    CONSTRAINT degrees_that_skin_may_turn CHECK (((skin >= 1) AND (skin <= 60))),
    CONSTRAINT one_studio CHECK (((id >= 1) AND (id <= 1))),
    CONSTRAINT people_studio_person_gb_check CHECK ((person_gb >= 0)),
    CONSTRAINT people_studio_project_gb_check CHECK ((project_gb >= 0)),
    CONSTRAINT people_studio_skin_check CHECK ((skin >= 0)),
    CONSTRAINT who_has_a_second_factor CHECK (((second_factor)::text = ANY ((ARRAY['everybody'::character varying, 'leaders'::character varying, 'nobody'::character varying])::text[]))),
    CONSTRAINT who_sees_what_is_new CHECK (((drafts)::text = ANY ((ARRAY['owner'::character varying, 'studio'::character varying])::text[])))
);

ALTER TABLE public.people_studio ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.people_studio_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.people_token (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    secret_hash character varying(64) NOT NULL,
    scopes character varying(8)[] NOT NULL,
    made timestamp with time zone NOT NULL,
    until timestamp with time zone NOT NULL,
    used timestamp with time zone,
    used_from inet,
    minute timestamp with time zone,
    in_minute integer NOT NULL,
    person_id bigint NOT NULL,
    CONSTRAINT calls_in_a_minute CHECK (((in_minute >= 0) AND (in_minute <= 1000000))),
    CONSTRAINT people_token_in_minute_check CHECK ((in_minute >= 0)),
    CONSTRAINT scopes_of_a_token CHECK (((scopes <@ ARRAY['read'::character varying(8), 'bring in'::character varying(8), 'design'::character varying(8), 'publish'::character varying(8)]) AND (
CASE
    WHEN (scopes IS NULL) THEN NULL::integer
    ELSE COALESCE(array_length(scopes, 1), 0)
END >= 1)))
);

ALTER TABLE public.people_token ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.people_token_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.pictures_footage (
    picture_id bigint NOT NULL,
    kind character varying(8) NOT NULL,
    first integer NOT NULL,
    count integer NOT NULL,
    rate_top integer NOT NULL,
    rate_bottom integer NOT NULL,
    timecode character varying(20) NOT NULL,
    matrix character varying(8) NOT NULL,
    "full" boolean,
    facts jsonb NOT NULL,
    folder character varying(80) NOT NULL,
    path character varying(1000) NOT NULL,
    proxy_encoding character varying(40) NOT NULL,
    proxy_id character varying(64),
    CONSTRAINT footage_has_frames CHECK (((count >= 1) AND (rate_bottom >= 1) AND (rate_top >= 1))),
    CONSTRAINT kind_of_footage CHECK (((kind)::text = ANY ((ARRAY['clip'::character varying, 'sequence'::character varying])::text[]))),
    CONSTRAINT pictures_footage_count_check CHECK ((count >= 0)),
    CONSTRAINT pictures_footage_first_check CHECK ((first >= 0)),
    CONSTRAINT pictures_footage_rate_bottom_check CHECK ((rate_bottom >= 0)),
    CONSTRAINT pictures_footage_rate_top_check CHECK ((rate_top >= 0))
);

CREATE TABLE public.pictures_footagefile (
    id bigint NOT NULL,
    "position" integer NOT NULL,
    file_name character varying(255) NOT NULL,
    bytes bigint NOT NULL,
    changed bigint NOT NULL,
    blob_id character varying(64),
    footage_id bigint NOT NULL,
    CONSTRAINT pictures_footagefile_position_check CHECK (("position" >= 0))
);

ALTER TABLE public.pictures_footagefile ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pictures_footagefile_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.pictures_picture (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    note character varying(300) NOT NULL,
    encoding character varying(40) NOT NULL,
    file_name character varying(255) NOT NULL,
    kind character varying(12) NOT NULL,
    depth character varying(4) NOT NULL,
    width integer NOT NULL,
    height integer NOT NULL,
    mended integer NOT NULL,
    test boolean NOT NULL,
    "position" integer NOT NULL,
    created timestamp with time zone NOT NULL,
    deleted timestamp with time zone,
    blob_id character varying(64) NOT NULL,
    owner_id bigint,
    proxy_id character varying(64) NOT NULL,
    passing boolean NOT NULL,
    stated character varying(160) NOT NULL,
    stated_encoding character varying(40) NOT NULL,
    white integer NOT NULL,
    CONSTRAINT height_of_a_picture CHECK (((height >= 1) AND (height <= 1000000))),
    CONSTRAINT pictures_picture_height_check CHECK ((height >= 0)),
    CONSTRAINT pictures_picture_mended_check CHECK ((mended >= 0)),
    CONSTRAINT pictures_picture_position_check CHECK (("position" >= 0)),
    CONSTRAINT pictures_picture_white_check CHECK ((white >= 0)),
    CONSTRAINT pictures_picture_width_check CHECK ((width >= 0)),
    CONSTRAINT white_of_a_picture CHECK (((white = 0) OR ((white >= 2000) AND (white <= 25000)))),
    CONSTRAINT width_of_a_picture CHECK (((width >= 1) AND (width <= 1000000)))
);

ALTER TABLE public.pictures_picture ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pictures_picture_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.pictures_pictureset (
    id bigint NOT NULL,
    name character varying(60) NOT NULL,
    owner_id bigint
);

ALTER TABLE public.pictures_pictureset ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pictures_pictureset_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.pictures_pictureset_pictures (
    id bigint NOT NULL,
    pictureset_id bigint NOT NULL,
    picture_id bigint NOT NULL
);

ALTER TABLE public.pictures_pictureset_pictures ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.pictures_pictureset_pictures_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.presets_recentsetting (
    id bigint NOT NULL,
    kind character varying(40) NOT NULL,
    step jsonb NOT NULL,
    steps_hash character varying(64) NOT NULL,
    used timestamp with time zone NOT NULL,
    person_id bigint NOT NULL
);

ALTER TABLE public.presets_recentsetting ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.presets_recentsetting_id_seq
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

CREATE TABLE public.projects_delivery (
    id bigint NOT NULL,
    number integer NOT NULL,
    choice jsonb NOT NULL,
    made timestamp with time zone NOT NULL,
    job_id bigint,
    made_by_id bigint,
    project_id bigint NOT NULL,
    frozen jsonb,
    forecast double precision,
    CONSTRAINT forecast_of_a_delivery CHECK (((forecast >= (0.0)::double precision) AND (forecast <= (1000000000.0)::double precision))),
    CONSTRAINT projects_delivery_number_check CHECK ((number >= 0))
);

ALTER TABLE public.projects_delivery ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.projects_delivery_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.projects_deliveryitem (
    id bigint NOT NULL,
    part integer NOT NULL,
    kind character varying(12) NOT NULL,
    frame integer,
    file_name character varying(255) NOT NULL,
    facts jsonb NOT NULL,
    blob_id character varying(64),
    delivery_id bigint NOT NULL,
    shot_id bigint,
    place integer,
    told character varying(80) NOT NULL,
    seconds double precision,
    CONSTRAINT kind_of_a_delivered_file CHECK (((kind)::text = ANY ((ARRAY['clip'::character varying, 'frame'::character varying, 'list'::character varying, 'look'::character varying, 'lut'::character varying, 'still'::character varying])::text[]))),
    CONSTRAINT projects_deliveryitem_frame_check CHECK ((frame >= 0)),
    CONSTRAINT projects_deliveryitem_part_check CHECK ((part >= 0)),
    CONSTRAINT projects_deliveryitem_place_check CHECK ((place >= 0)),
    CONSTRAINT seconds_of_a_delivered_file CHECK (((seconds >= (0.0)::double precision) AND (seconds <= (1000000000.0)::double precision)))
);

ALTER TABLE public.projects_deliveryitem ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.projects_deliveryitem_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.projects_keptchoice (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    choice jsonb NOT NULL,
    owner_id bigint
);

ALTER TABLE public.projects_keptchoice ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.projects_keptchoice_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.projects_layer (
    id bigint NOT NULL,
    "position" smallint NOT NULL,
    strength double precision NOT NULL,
    placed timestamp with time zone NOT NULL,
    placed_by_id bigint,
    version_id bigint,
    shot_id bigint,
    enabled boolean NOT NULL,
    role character varying(6) NOT NULL,
    steps jsonb,
    off_on bigint[] NOT NULL,
    project_id bigint,
    roll character varying(80) NOT NULL,
    scene_id bigint,
    member character varying(60) NOT NULL,
    CONSTRAINT on_a_shot_or_on_many CHECK ((((off_on = '{}'::bigint[]) AND (project_id IS NULL) AND ((roll)::text = ''::text) AND (scene_id IS NULL) AND (shot_id IS NOT NULL)) OR ((project_id IS NULL) AND ((role)::text = 'before'::text) AND ((roll)::text = ''::text) AND (scene_id IS NOT NULL) AND (shot_id IS NULL)) OR ((project_id IS NOT NULL) AND ((role)::text = 'before'::text) AND (scene_id IS NULL) AND (shot_id IS NULL)) OR ((project_id IS NOT NULL) AND ((role)::text = 'after'::text) AND ((roll)::text = ''::text) AND (scene_id IS NULL) AND (shot_id IS NULL)))),
    CONSTRAINT projects_layer_position_check CHECK (("position" >= 0)),
    CONSTRAINT role_of_a_layer CHECK (((role)::text = ANY ((ARRAY['after'::character varying, 'before'::character varying, 'look'::character varying])::text[]))),
    CONSTRAINT strength_of_a_layer CHECK (((strength >= (0.0)::double precision) AND (strength <= (1.0)::double precision))),
    CONSTRAINT version_or_steps CHECK ((((steps = 'null'::jsonb) AND (version_id IS NOT NULL)) OR ((steps IS NOT NULL) AND (version_id IS NULL))))
);

ALTER TABLE public.projects_layer ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.projects_layer_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.projects_membership (
    id bigint NOT NULL,
    role character varying(8) NOT NULL,
    person_id bigint NOT NULL,
    project_id bigint NOT NULL,
    CONSTRAINT role_of_a_member CHECK (((role)::text = ANY ((ARRAY['follows'::character varying, 'grades'::character varying, 'leads'::character varying])::text[])))
);

ALTER TABLE public.projects_membership ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.projects_membership_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.projects_project (
    id bigint NOT NULL,
    name character varying(120) NOT NULL,
    code character varying(20) NOT NULL,
    note text NOT NULL,
    delivery character varying(40) NOT NULL,
    closed boolean NOT NULL,
    created timestamp with time zone NOT NULL,
    deleted timestamp with time zone,
    owner_id bigint,
    tolerances jsonb NOT NULL,
    view character varying(10) NOT NULL,
    CONSTRAINT note_of_a_project CHECK ((length(note) <= 2000)),
    CONSTRAINT view_of_a_project CHECK (((view)::text = ANY ((ARRAY['plain'::character varying, 'soft'::character varying])::text[])))
);

ALTER TABLE public.projects_project ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.projects_project_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.projects_scene (
    id bigint NOT NULL,
    name character varying(80) NOT NULL,
    "position" integer NOT NULL,
    project_id bigint NOT NULL,
    CONSTRAINT projects_scene_position_check CHECK (("position" >= 0))
);

ALTER TABLE public.projects_scene ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.projects_scene_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.projects_shot (
    id bigint NOT NULL,
    code character varying(80) NOT NULL,
    "position" integer NOT NULL,
    note character varying(1000) NOT NULL,
    approved boolean NOT NULL,
    deleted timestamp with time zone,
    picture_id bigint NOT NULL,
    scene_id bigint NOT NULL,
    encoding character varying(40) NOT NULL,
    facts jsonb NOT NULL,
    first integer,
    last integer,
    poster integer,
    reference_id bigint,
    roll character varying(80) NOT NULL,
    CONSTRAINT frames_of_a_shot CHECK ((((first IS NULL) AND (last IS NULL) AND (poster IS NULL)) OR ((first <= last) AND (poster >= first) AND (poster <= last)))),
    CONSTRAINT projects_shot_first_check CHECK ((first >= 0)),
    CONSTRAINT projects_shot_last_check CHECK ((last >= 0)),
    CONSTRAINT projects_shot_position_check CHECK (("position" >= 0)),
    CONSTRAINT projects_shot_poster_check CHECK ((poster >= 0))
);

ALTER TABLE public.projects_shot ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.projects_shot_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.projects_shotfigures (
    shot_id bigint NOT NULL,
    shows character varying(64) NOT NULL,
    figures jsonb NOT NULL
);

CREATE TABLE public.projects_shotnote (
    id bigint NOT NULL,
    frame integer,
    words character varying(1000) NOT NULL,
    at timestamp with time zone NOT NULL,
    person_id bigint,
    shot_id bigint NOT NULL,
    guest character varying(80) NOT NULL,
    x double precision,
    y double precision,
    CONSTRAINT note_within_its_picture CHECK ((((x IS NULL) AND (y IS NULL)) OR ((x >= (0.0)::double precision) AND (x <= (1.0)::double precision) AND (y >= (0.0)::double precision) AND (y <= (1.0)::double precision)))),
    CONSTRAINT projects_shotnote_frame_check CHECK ((frame >= 0))
);

ALTER TABLE public.projects_shotnote ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.projects_shotnote_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.socialaccount_socialaccount (
    id integer NOT NULL,
    provider character varying(200) NOT NULL,
    uid character varying(191) NOT NULL,
    last_login timestamp with time zone NOT NULL,
    date_joined timestamp with time zone NOT NULL,
    extra_data jsonb NOT NULL,
    user_id bigint NOT NULL
);

ALTER TABLE public.socialaccount_socialaccount ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.socialaccount_socialaccount_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.socialaccount_socialapp (
    id integer NOT NULL,
    provider character varying(30) NOT NULL,
    name character varying(40) NOT NULL,
    client_id character varying(191) NOT NULL,
    secret character varying(191) NOT NULL,
    key character varying(191) NOT NULL,
    provider_id character varying(200) NOT NULL,
    settings jsonb NOT NULL
);

ALTER TABLE public.socialaccount_socialapp ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.socialaccount_socialapp_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.socialaccount_socialtoken (
    id integer NOT NULL,
    token text NOT NULL,
    token_secret text NOT NULL,
    expires_at timestamp with time zone,
    account_id integer NOT NULL,
    app_id integer
);

ALTER TABLE public.socialaccount_socialtoken ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.socialaccount_socialtoken_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

CREATE TABLE public.stress_stressreport (
    version_id bigint NOT NULL,
    holds boolean NOT NULL,
    content jsonb NOT NULL,
    pictures integer NOT NULL,
    made timestamp with time zone NOT NULL,
    made_by_id bigint,
    CONSTRAINT stress_stressreport_pictures_check CHECK ((pictures >= 0))
);

CREATE TABLE public.uploads_upload (
    id uuid NOT NULL,
    name character varying(200) NOT NULL,
    size bigint NOT NULL,
    "offset" bigint NOT NULL,
    made timestamp with time zone NOT NULL,
    touched timestamp with time zone NOT NULL,
    person_id bigint NOT NULL,
    CONSTRAINT upload_within_its_size CHECK ((("offset" >= 0) AND ("offset" <= size) AND (size >= 1)))
);

CREATE TABLE public.usersessions_usersession (
    id bigint NOT NULL,
    created_at timestamp with time zone NOT NULL,
    ip inet NOT NULL,
    last_seen_at timestamp with time zone NOT NULL,
    session_key character varying(40) NOT NULL,
    user_agent character varying(200) NOT NULL,
    data jsonb NOT NULL,
    user_id bigint NOT NULL
);

ALTER TABLE public.usersessions_usersession ALTER COLUMN id ADD GENERATED BY DEFAULT AS IDENTITY (
    SEQUENCE NAME public.usersessions_usersession_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);

ALTER TABLE ONLY public.procrastinate_events ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_events_id_seq'::regclass);

ALTER TABLE ONLY public.procrastinate_jobs ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_jobs_id_seq'::regclass);

ALTER TABLE ONLY public.procrastinate_periodic_defers ALTER COLUMN id SET DEFAULT nextval('public.procrastinate_periodic_defers_id_seq'::regclass);

ALTER TABLE ONLY public.account_emailaddress
    ADD CONSTRAINT account_emailaddress_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.account_emailaddress
    ADD CONSTRAINT account_emailaddress_user_id_email_987c8728_uniq UNIQUE (user_id, email);

ALTER TABLE ONLY public.account_emailconfirmation
    ADD CONSTRAINT account_emailconfirmation_key_key UNIQUE (key);

ALTER TABLE ONLY public.account_emailconfirmation
    ADD CONSTRAINT account_emailconfirmation_pkey PRIMARY KEY (id);

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

ALTER TABLE ONLY public.boards_board
    ADD CONSTRAINT boards_board_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.boards_boardentry
    ADD CONSTRAINT boards_boardentry_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.boards_boardpicture
    ADD CONSTRAINT boards_boardpicture_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.boards_verdict
    ADD CONSTRAINT boards_verdict_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.cache
    ADD CONSTRAINT cache_pkey PRIMARY KEY (cache_key);

ALTER TABLE ONLY public.catalogue_category
    ADD CONSTRAINT catalogue_category_path_key UNIQUE (path);

ALTER TABLE ONLY public.catalogue_category
    ADD CONSTRAINT catalogue_category_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_character
    ADD CONSTRAINT catalogue_character_pkey PRIMARY KEY (entry_id);

ALTER TABLE ONLY public.catalogue_entry_favourite_of
    ADD CONSTRAINT catalogue_entry_favourite_of_entry_id_person_id_4058f579_uniq UNIQUE (entry_id, person_id);

ALTER TABLE ONLY public.catalogue_entry_favourite_of
    ADD CONSTRAINT catalogue_entry_favourite_of_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_entry
    ADD CONSTRAINT catalogue_entry_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_entry_tags
    ADD CONSTRAINT catalogue_entry_tags_entry_id_tag_id_ea1f2a8f_uniq UNIQUE (entry_id, tag_id);

ALTER TABLE ONLY public.catalogue_entry_tags
    ADD CONSTRAINT catalogue_entry_tags_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_entrychange
    ADD CONSTRAINT catalogue_entrychange_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_keptapart
    ADD CONSTRAINT catalogue_keptapart_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_notice
    ADD CONSTRAINT catalogue_notice_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_pin
    ADD CONSTRAINT catalogue_pin_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_review
    ADD CONSTRAINT catalogue_review_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_savedview
    ADD CONSTRAINT catalogue_savedview_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_share
    ADD CONSTRAINT catalogue_share_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_spelling
    ADD CONSTRAINT catalogue_spelling_pkey PRIMARY KEY (word);

ALTER TABLE ONLY public.catalogue_tag
    ADD CONSTRAINT catalogue_tag_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_version
    ADD CONSTRAINT catalogue_version_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.common_blob
    ADD CONSTRAINT common_blob_pkey PRIMARY KEY (sha256);

ALTER TABLE ONLY public.common_clock
    ADD CONSTRAINT common_clock_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.common_unreadable
    ADD CONSTRAINT common_unreadable_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.django_content_type
    ADD CONSTRAINT django_content_type_app_label_model_76bd3d3b_uniq UNIQUE (app_label, model);

ALTER TABLE ONLY public.django_content_type
    ADD CONSTRAINT django_content_type_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.django_migrations
    ADD CONSTRAINT django_migrations_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.django_session
    ADD CONSTRAINT django_session_pkey PRIMARY KEY (session_key);

ALTER TABLE ONLY public.encodings_teamencoding
    ADD CONSTRAINT encodings_teamencoding_encoding_id_key UNIQUE (encoding_id);

ALTER TABLE ONLY public.encodings_teamencoding
    ADD CONSTRAINT encodings_teamencoding_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.guests_galleryentry
    ADD CONSTRAINT entry_once_in_a_gallery UNIQUE (link_id, entry_id);

ALTER TABLE ONLY public.boards_boardentry
    ADD CONSTRAINT entry_once_on_a_board UNIQUE (board_id, entry_id);

ALTER TABLE ONLY public.guests_galleryentry
    ADD CONSTRAINT guests_galleryentry_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.guests_gallerypicture
    ADD CONSTRAINT guests_gallerypicture_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.guests_guest
    ADD CONSTRAINT guests_guest_key_hash_key UNIQUE (key_hash);

ALTER TABLE ONLY public.guests_guest
    ADD CONSTRAINT guests_guest_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.guests_guestlink
    ADD CONSTRAINT guests_guestlink_code_hash_key UNIQUE (code_hash);

ALTER TABLE ONLY public.guests_guestlink
    ADD CONSTRAINT guests_guestlink_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.guests_guestremark
    ADD CONSTRAINT guests_guestremark_note_id_key UNIQUE (note_id);

ALTER TABLE ONLY public.guests_guestremark
    ADD CONSTRAINT guests_guestremark_pin_id_key UNIQUE (pin_id);

ALTER TABLE ONLY public.guests_guestremark
    ADD CONSTRAINT guests_guestremark_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.guests_guestverdict
    ADD CONSTRAINT guests_guestverdict_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.hooks_call
    ADD CONSTRAINT hooks_call_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.hooks_hook
    ADD CONSTRAINT hooks_hook_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.jobs_job_blobs
    ADD CONSTRAINT jobs_job_blobs_job_id_blob_id_67e7c583_uniq UNIQUE (job_id, blob_id);

ALTER TABLE ONLY public.jobs_job_blobs
    ADD CONSTRAINT jobs_job_blobs_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.jobs_job
    ADD CONSTRAINT jobs_job_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_keptapart
    ADD CONSTRAINT kept_apart_once UNIQUE (first_id, second_id);

ALTER TABLE ONLY public.looks_lookdraft
    ADD CONSTRAINT looks_lookdraft_pkey PRIMARY KEY (entry_id);

ALTER TABLE ONLY public.looks_presence
    ADD CONSTRAINT looks_presence_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.luts_lut
    ADD CONSTRAINT luts_lut_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.luts_lutfile
    ADD CONSTRAINT luts_lutfile_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.luts_pack
    ADD CONSTRAINT luts_pack_job_id_key UNIQUE (job_id);

ALTER TABLE ONLY public.luts_pack
    ADD CONSTRAINT luts_pack_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.luts_packrow
    ADD CONSTRAINT luts_packrow_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.mfa_authenticator
    ADD CONSTRAINT mfa_authenticator_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.projects_delivery
    ADD CONSTRAINT one_delivery_per_number UNIQUE (project_id, number);

ALTER TABLE ONLY public.pictures_footagefile
    ADD CONSTRAINT one_file_per_frame UNIQUE (footage_id, "position");

ALTER TABLE ONLY public.luts_lutfile
    ADD CONSTRAINT one_file_per_position UNIQUE (lut_id, "position");

ALTER TABLE ONLY public.projects_layer
    ADD CONSTRAINT one_layer_per_place UNIQUE (shot_id, "position") DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_layer
    ADD CONSTRAINT one_layer_per_place_of_a_project UNIQUE (project_id, roll, role, "position");

ALTER TABLE ONLY public.projects_layer
    ADD CONSTRAINT one_layer_per_place_of_a_scene UNIQUE (scene_id, "position");

ALTER TABLE ONLY public.looks_presence
    ADD CONSTRAINT one_presence_per_page UNIQUE (look_id, person_id, page);

ALTER TABLE ONLY public.presets_recentsetting
    ADD CONSTRAINT one_recent_per_setting UNIQUE (person_id, kind, steps_hash);

ALTER TABLE ONLY public.projects_membership
    ADD CONSTRAINT one_role_per_member UNIQUE (project_id, person_id);

ALTER TABLE ONLY public.luts_packrow
    ADD CONSTRAINT one_row_per_index UNIQUE (pack_id, index);

ALTER TABLE ONLY public.people_token
    ADD CONSTRAINT one_token_per_name UNIQUE (person_id, name);

ALTER TABLE ONLY public.guests_guestverdict
    ADD CONSTRAINT one_verdict_a_guest UNIQUE NULLS NOT DISTINCT (guest_id, entry_id, shot_id);

ALTER TABLE ONLY public.boards_verdict
    ADD CONSTRAINT one_verdict_a_person UNIQUE (board_id, entry_id, person_id);

ALTER TABLE ONLY public.catalogue_version
    ADD CONSTRAINT one_version_per_number UNIQUE (entry_id, number);

ALTER TABLE ONLY public.people_activity
    ADD CONSTRAINT people_activity_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.people_link
    ADD CONSTRAINT people_link_code_hash_key UNIQUE (code_hash);

ALTER TABLE ONLY public.people_link
    ADD CONSTRAINT people_link_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.people_person_groups
    ADD CONSTRAINT people_person_groups_person_id_group_id_438d585f_uniq UNIQUE (person_id, group_id);

ALTER TABLE ONLY public.people_person_groups
    ADD CONSTRAINT people_person_groups_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.people_person
    ADD CONSTRAINT people_person_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.people_person_user_permissions
    ADD CONSTRAINT people_person_user_permi_person_id_permission_id_c2e10f6f_uniq UNIQUE (person_id, permission_id);

ALTER TABLE ONLY public.people_person_user_permissions
    ADD CONSTRAINT people_person_user_permissions_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.people_person
    ADD CONSTRAINT people_person_username_key UNIQUE (username);

ALTER TABLE ONLY public.people_studio
    ADD CONSTRAINT people_studio_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.people_token
    ADD CONSTRAINT people_token_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.people_token
    ADD CONSTRAINT people_token_secret_hash_key UNIQUE (secret_hash);

ALTER TABLE ONLY public.guests_gallerypicture
    ADD CONSTRAINT picture_once_in_a_gallery UNIQUE (link_id, picture_id);

ALTER TABLE ONLY public.boards_boardpicture
    ADD CONSTRAINT picture_once_on_a_board UNIQUE (board_id, picture_id);

ALTER TABLE ONLY public.pictures_footage
    ADD CONSTRAINT pictures_footage_pkey PRIMARY KEY (picture_id);

ALTER TABLE ONLY public.pictures_footagefile
    ADD CONSTRAINT pictures_footagefile_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.pictures_picture
    ADD CONSTRAINT pictures_picture_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.pictures_pictureset
    ADD CONSTRAINT pictures_pictureset_name_key UNIQUE (name);

ALTER TABLE ONLY public.pictures_pictureset_pictures
    ADD CONSTRAINT pictures_pictureset_pict_pictureset_id_picture_id_812de013_uniq UNIQUE (pictureset_id, picture_id);

ALTER TABLE ONLY public.pictures_pictureset_pictures
    ADD CONSTRAINT pictures_pictureset_pictures_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.pictures_pictureset
    ADD CONSTRAINT pictures_pictureset_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.presets_recentsetting
    ADD CONSTRAINT presets_recentsetting_pkey PRIMARY KEY (id);

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

ALTER TABLE ONLY public.projects_delivery
    ADD CONSTRAINT projects_delivery_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.projects_deliveryitem
    ADD CONSTRAINT projects_deliveryitem_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.projects_keptchoice
    ADD CONSTRAINT projects_keptchoice_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.projects_layer
    ADD CONSTRAINT projects_layer_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.projects_membership
    ADD CONSTRAINT projects_membership_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.projects_project
    ADD CONSTRAINT projects_project_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.projects_scene
    ADD CONSTRAINT projects_scene_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.projects_shot
    ADD CONSTRAINT projects_shot_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.projects_shotfigures
    ADD CONSTRAINT projects_shotfigures_pkey PRIMARY KEY (shot_id);

ALTER TABLE ONLY public.projects_shotnote
    ADD CONSTRAINT projects_shotnote_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.catalogue_share
    ADD CONSTRAINT shared_once UNIQUE NULLS NOT DISTINCT (entry_id, person_id, project_id);

ALTER TABLE ONLY public.socialaccount_socialaccount
    ADD CONSTRAINT socialaccount_socialaccount_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.socialaccount_socialaccount
    ADD CONSTRAINT socialaccount_socialaccount_provider_uid_fc810c6e_uniq UNIQUE (provider, uid);

ALTER TABLE ONLY public.socialaccount_socialapp
    ADD CONSTRAINT socialaccount_socialapp_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.socialaccount_socialtoken
    ADD CONSTRAINT socialaccount_socialtoken_app_id_account_id_fca4e0ac_uniq UNIQUE (app_id, account_id);

ALTER TABLE ONLY public.socialaccount_socialtoken
    ADD CONSTRAINT socialaccount_socialtoken_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.stress_stressreport
    ADD CONSTRAINT stress_stressreport_pkey PRIMARY KEY (version_id);

ALTER TABLE ONLY public.common_unreadable
    ADD CONSTRAINT unreadable_once UNIQUE (kind, key);

ALTER TABLE ONLY public.uploads_upload
    ADD CONSTRAINT uploads_upload_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.usersessions_usersession
    ADD CONSTRAINT usersessions_usersession_pkey PRIMARY KEY (id);

ALTER TABLE ONLY public.usersessions_usersession
    ADD CONSTRAINT usersessions_usersession_session_key_key UNIQUE (session_key);

CREATE INDEX account_emailaddress_email_03be32b2 ON public.account_emailaddress USING btree (email);

CREATE INDEX account_emailaddress_email_03be32b2_like ON public.account_emailaddress USING btree (email varchar_pattern_ops);

CREATE INDEX account_emailaddress_user_id_2c513194 ON public.account_emailaddress USING btree (user_id);

CREATE INDEX account_emailconfirmation_email_address_id_5b7f8c58 ON public.account_emailconfirmation USING btree (email_address_id);

CREATE INDEX account_emailconfirmation_key_f43612bd_like ON public.account_emailconfirmation USING btree (key varchar_pattern_ops);

CREATE INDEX activity_about ON public.people_activity USING btree (about_kind, about_id, at DESC);

CREATE INDEX activity_what ON public.people_activity USING btree (action, at DESC);

CREATE INDEX activity_when ON public.people_activity USING btree (at DESC, id DESC);

CREATE INDEX activity_who ON public.people_activity USING btree (person_id, at DESC);

CREATE INDEX auth_group_name_a6ea08ec_like ON public.auth_group USING btree (name varchar_pattern_ops);

CREATE INDEX auth_group_permissions_group_id_b120cbf9 ON public.auth_group_permissions USING btree (group_id);

CREATE INDEX auth_group_permissions_permission_id_84c5c92e ON public.auth_group_permissions USING btree (permission_id);

CREATE INDEX auth_permission_content_type_id_2f476e4b ON public.auth_permission USING btree (content_type_id);

CREATE INDEX board_newest ON public.boards_board USING btree (changed DESC, id DESC) WHERE (deleted IS NULL);

CREATE INDEX boards_board_owner_id_b5769a17 ON public.boards_board USING btree (owner_id);

CREATE INDEX boards_boardentry_board_id_6266edb1 ON public.boards_boardentry USING btree (board_id);

CREATE INDEX boards_boardentry_entry_id_db54f691 ON public.boards_boardentry USING btree (entry_id);

CREATE INDEX boards_boardpicture_board_id_4c560537 ON public.boards_boardpicture USING btree (board_id);

CREATE INDEX boards_boardpicture_picture_id_df5c35c0 ON public.boards_boardpicture USING btree (picture_id);

CREATE INDEX boards_verdict_board_id_920cc145 ON public.boards_verdict USING btree (board_id);

CREATE INDEX boards_verdict_entry_id_c0d3189e ON public.boards_verdict USING btree (entry_id);

CREATE INDEX boards_verdict_person_id_1370c557 ON public.boards_verdict USING btree (person_id);

CREATE INDEX cache_expires ON public.cache USING btree (expires);

CREATE INDEX call_due ON public.hooks_call USING btree (due) WHERE ((state)::text = 'waiting'::text);

CREATE INDEX catalogue_category_parent_id_4479cbbf ON public.catalogue_category USING btree (parent_id);

CREATE INDEX catalogue_category_path_1c5b79c2_like ON public.catalogue_category USING btree (path varchar_pattern_ops);

CREATE INDEX catalogue_entry_category_id_2a8c2556 ON public.catalogue_entry USING btree (category_id);

CREATE INDEX catalogue_entry_favourite_of_entry_id_1abfe3d0 ON public.catalogue_entry_favourite_of USING btree (entry_id);

CREATE INDEX catalogue_entry_favourite_of_person_id_063361e2 ON public.catalogue_entry_favourite_of USING btree (person_id);

CREATE INDEX catalogue_entry_latest_id_756fee40 ON public.catalogue_entry USING btree (latest_id);

CREATE INDEX catalogue_entry_merged_into_id_2f6231bd ON public.catalogue_entry USING btree (merged_into_id);

CREATE INDEX catalogue_entry_owner_id_67edd04b ON public.catalogue_entry USING btree (owner_id);

CREATE INDEX catalogue_entry_published_id_e001da00 ON public.catalogue_entry USING btree (published_id);

CREATE INDEX catalogue_entry_tags_entry_id_b5314743 ON public.catalogue_entry_tags USING btree (entry_id);

CREATE INDEX catalogue_entry_tags_tag_id_51db0c4c ON public.catalogue_entry_tags USING btree (tag_id);

CREATE INDEX catalogue_entrychange_xid_66771ac0 ON public.catalogue_entrychange USING btree (xid);

CREATE INDEX catalogue_keptapart_first_id_854845e5 ON public.catalogue_keptapart USING btree (first_id);

CREATE INDEX catalogue_keptapart_person_id_b504092b ON public.catalogue_keptapart USING btree (person_id);

CREATE INDEX catalogue_keptapart_second_id_a50c573a ON public.catalogue_keptapart USING btree (second_id);

CREATE INDEX catalogue_notice_by_id_753bf88a ON public.catalogue_notice USING btree (by_id);

CREATE INDEX catalogue_notice_person_id_3b19e952 ON public.catalogue_notice USING btree (person_id);

CREATE INDEX catalogue_notice_version_id_02a504be ON public.catalogue_notice USING btree (version_id);

CREATE INDEX catalogue_pin_answers_id_14fdc0ff ON public.catalogue_pin USING btree (answers_id);

CREATE INDEX catalogue_pin_person_id_6e2ac294 ON public.catalogue_pin USING btree (person_id);

CREATE INDEX catalogue_pin_picture_id_a792e565 ON public.catalogue_pin USING btree (picture_id);

CREATE INDEX catalogue_pin_settled_by_id_d3a87fce ON public.catalogue_pin USING btree (settled_by_id);

CREATE INDEX catalogue_pin_version_id_037c8432 ON public.catalogue_pin USING btree (version_id);

CREATE INDEX catalogue_review_person_id_c7351359 ON public.catalogue_review USING btree (person_id);

CREATE INDEX catalogue_review_version_id_7aeb2f23 ON public.catalogue_review USING btree (version_id);

CREATE INDEX catalogue_savedview_owner_id_943da9f0 ON public.catalogue_savedview USING btree (owner_id);

CREATE INDEX catalogue_share_entry_id_0db02f43 ON public.catalogue_share USING btree (entry_id);

CREATE INDEX catalogue_share_person_id_91746184 ON public.catalogue_share USING btree (person_id);

CREATE INDEX catalogue_share_project_id_affa25b9 ON public.catalogue_share USING btree (project_id);

CREATE INDEX catalogue_spelling_word_d9e06d9c_like ON public.catalogue_spelling USING btree (word varchar_pattern_ops);

CREATE INDEX catalogue_version_entry_id_201449f2 ON public.catalogue_version USING btree (entry_id);

CREATE INDEX catalogue_version_from_version_id_1c9a559c ON public.catalogue_version USING btree (from_version_id);

CREATE INDEX catalogue_version_made_by_id_cf917756 ON public.catalogue_version USING btree (made_by_id);

CREATE INDEX category_below ON public.catalogue_category USING btree (path varchar_pattern_ops);

CREATE INDEX character_colour ON public.catalogue_character USING btree (colour, entry_id);

CREATE INDEX character_contrast ON public.catalogue_character USING btree (contrast, entry_id);

CREATE INDEX character_lightness ON public.catalogue_character USING btree (lightness, entry_id);

CREATE INDEX character_strength ON public.catalogue_character USING btree (strength, entry_id);

CREATE INDEX character_warmth ON public.catalogue_character USING btree (warmth, entry_id);

CREATE INDEX common_blob_made_02045a10 ON public.common_blob USING btree (made);

CREATE INDEX common_blob_sha256_7306b3d6_like ON public.common_blob USING btree (sha256 varchar_pattern_ops);

CREATE INDEX common_unreadable_at_eaa9438d ON public.common_unreadable USING btree (at);

CREATE INDEX django_session_expire_date_a5c62663 ON public.django_session USING btree (expire_date);

CREATE INDEX django_session_session_key_c0390e0f_like ON public.django_session USING btree (session_key varchar_pattern_ops);

CREATE INDEX encodings_teamencoding_encoding_id_38a98761_like ON public.encodings_teamencoding USING btree (encoding_id varchar_pattern_ops);

CREATE INDEX encodings_teamencoding_owner_id_c5991478 ON public.encodings_teamencoding USING btree (owner_id);

CREATE INDEX entry_category_newest ON public.catalogue_entry USING btree (category_id, shown_at DESC, id DESC) WHERE (deleted IS NULL);

CREATE INDEX entry_kind_newest ON public.catalogue_entry USING btree (kind, shown_at DESC, id DESC) WHERE (deleted IS NULL);

CREATE INDEX entry_letters ON public.catalogue_entry USING gin (document public.gin_trgm_ops);

CREATE INDEX entry_name ON public.catalogue_entry USING btree (name, id) WHERE (deleted IS NULL);

CREATE INDEX entry_newest ON public.catalogue_entry USING btree (shown_at DESC, id DESC) WHERE (deleted IS NULL);

CREATE INDEX entry_state_newest ON public.catalogue_entry USING btree (state, shown_at DESC, id DESC) WHERE (deleted IS NULL);

CREATE INDEX entry_uses ON public.catalogue_entry USING gin (uses);

CREATE INDEX guests_galleryentry_entry_id_23bcf6cf ON public.guests_galleryentry USING btree (entry_id);

CREATE INDEX guests_galleryentry_link_id_c97f7585 ON public.guests_galleryentry USING btree (link_id);

CREATE INDEX guests_gallerypicture_link_id_d8441b45 ON public.guests_gallerypicture USING btree (link_id);

CREATE INDEX guests_gallerypicture_picture_id_f4e98685 ON public.guests_gallerypicture USING btree (picture_id);

CREATE INDEX guests_guest_key_hash_0cfa14bf_like ON public.guests_guest USING btree (key_hash varchar_pattern_ops);

CREATE INDEX guests_guest_link_id_3063c37a ON public.guests_guest USING btree (link_id);

CREATE INDEX guests_guestlink_board_id_c9bd3dc3 ON public.guests_guestlink USING btree (board_id);

CREATE INDEX guests_guestlink_code_hash_8f04020a_like ON public.guests_guestlink USING btree (code_hash varchar_pattern_ops);

CREATE INDEX guests_guestlink_made_by_id_ae96b5c8 ON public.guests_guestlink USING btree (made_by_id);

CREATE INDEX guests_guestlink_project_id_8c66a73b ON public.guests_guestlink USING btree (project_id);

CREATE INDEX guests_guestremark_guest_id_554bbc46 ON public.guests_guestremark USING btree (guest_id);

CREATE INDEX guests_guestverdict_entry_id_ba689de7 ON public.guests_guestverdict USING btree (entry_id);

CREATE INDEX guests_guestverdict_guest_id_cea6f6d2 ON public.guests_guestverdict USING btree (guest_id);

CREATE INDEX guests_guestverdict_shot_id_b88f4f16 ON public.guests_guestverdict USING btree (shot_id);

CREATE INDEX hooks_call_hook_id_df8c32c8 ON public.hooks_call USING btree (hook_id);

CREATE INDEX hooks_hook_made_by_id_0cc0e6d6 ON public.hooks_hook USING btree (made_by_id);

CREATE INDEX idx_procrastinate_jobs_worker_not_null ON public.procrastinate_jobs USING btree (worker_id) WHERE ((worker_id IS NOT NULL) AND (status = 'doing'::public.procrastinate_job_status));

CREATE INDEX idx_procrastinate_workers_last_heartbeat ON public.procrastinate_workers USING btree (last_heartbeat);

CREATE INDEX items_of_a_part ON public.projects_deliveryitem USING btree (delivery_id, part);

CREATE INDEX jobs_job_blobs_blob_id_1fca126c ON public.jobs_job_blobs USING btree (blob_id);

CREATE INDEX jobs_job_blobs_blob_id_1fca126c_like ON public.jobs_job_blobs USING btree (blob_id varchar_pattern_ops);

CREATE INDEX jobs_job_blobs_job_id_7d062bad ON public.jobs_job_blobs USING btree (job_id);

CREATE INDEX jobs_job_parent_id_675bb714 ON public.jobs_job USING btree (parent_id);

CREATE INDEX jobs_job_person_id_a82d0d0a ON public.jobs_job USING btree (person_id);

CREATE INDEX jobs_of_person ON public.jobs_job USING btree (person_id, created DESC, id DESC);

CREATE INDEX looks_lookdraft_edited_by_id_ad6f08cd ON public.looks_lookdraft USING btree (edited_by_id);

CREATE INDEX looks_presence_look_id_8f774b59 ON public.looks_presence USING btree (look_id);

CREATE INDEX looks_presence_person_id_84bf35a2 ON public.looks_presence USING btree (person_id);

CREATE INDEX luts_lut_bucket_df079ebe ON public.luts_lut USING btree (bucket);

CREATE INDEX luts_lut_version_id_3e96e2b0 ON public.luts_lut USING btree (version_id);

CREATE INDEX luts_lutfile_blob_id_ca4def2a ON public.luts_lutfile USING btree (blob_id);

CREATE INDEX luts_lutfile_blob_id_ca4def2a_like ON public.luts_lutfile USING btree (blob_id varchar_pattern_ops);

CREATE INDEX luts_lutfile_lut_id_fe603db1 ON public.luts_lutfile USING btree (lut_id);

CREATE INDEX luts_pack_person_id_89bbc5b3 ON public.luts_pack USING btree (person_id);

CREATE INDEX luts_packrow_blob_id_cc2d52f3 ON public.luts_packrow USING btree (blob_id);

CREATE INDEX luts_packrow_blob_id_cc2d52f3_like ON public.luts_packrow USING btree (blob_id varchar_pattern_ops);

CREATE INDEX luts_packrow_kept_id_ea7a051a ON public.luts_packrow USING btree (kept_id);

CREATE INDEX luts_packrow_pack_id_87b7a84e ON public.luts_packrow USING btree (pack_id);

CREATE INDEX mfa_authenticator_user_id_0c3a50c0 ON public.mfa_authenticator USING btree (user_id);

CREATE INDEX notice_of_person ON public.catalogue_notice USING btree (person_id, at DESC, id DESC);

CREATE UNIQUE INDEX one_category_per_name ON public.catalogue_category USING btree (parent_id, lower((name)::text)) NULLS NOT DISTINCT;

CREATE UNIQUE INDEX one_file_per_name ON public.projects_deliveryitem USING btree (delivery_id, lower((file_name)::text));

CREATE UNIQUE INDEX one_hook_per_name ON public.hooks_hook USING btree (lower((name)::text));

CREATE UNIQUE INDEX one_kept_choice_per_name ON public.projects_keptchoice USING btree (lower((name)::text));

CREATE UNIQUE INDEX one_project_per_name ON public.projects_project USING btree (lower((name)::text)) WHERE (deleted IS NULL);

CREATE UNIQUE INDEX one_scene_per_name ON public.projects_scene USING btree (project_id, lower((name)::text));

CREATE UNIQUE INDEX one_shot_per_code ON public.projects_shot USING btree (scene_id, lower((code)::text)) WHERE (deleted IS NULL);

CREATE UNIQUE INDEX one_tag_per_name ON public.catalogue_tag USING btree (lower((name)::text));

CREATE UNIQUE INDEX one_view_per_name ON public.catalogue_savedview USING btree (owner_id, lower((name)::text));

CREATE INDEX people_activity_person_id_858099ac ON public.people_activity USING btree (person_id);

CREATE INDEX people_link_code_hash_9b3e816a_like ON public.people_link USING btree (code_hash varchar_pattern_ops);

CREATE INDEX people_link_made_by_id_596a6084 ON public.people_link USING btree (made_by_id);

CREATE INDEX people_link_person_id_08b3677c ON public.people_link USING btree (person_id);

CREATE INDEX people_person_groups_group_id_3ba87606 ON public.people_person_groups USING btree (group_id);

CREATE INDEX people_person_groups_person_id_b7e415fc ON public.people_person_groups USING btree (person_id);

CREATE INDEX people_person_user_permissions_permission_id_24fa752f ON public.people_person_user_permissions USING btree (permission_id);

CREATE INDEX people_person_user_permissions_person_id_755c9d0c ON public.people_person_user_permissions USING btree (person_id);

CREATE INDEX people_person_username_997612ff_like ON public.people_person USING btree (username varchar_pattern_ops);

CREATE INDEX people_token_person_id_8b257082 ON public.people_token USING btree (person_id);

CREATE INDEX people_token_secret_hash_cc456faf_like ON public.people_token USING btree (secret_hash varchar_pattern_ops);

CREATE INDEX pictures_footage_proxy_id_b5de0e69 ON public.pictures_footage USING btree (proxy_id);

CREATE INDEX pictures_footage_proxy_id_b5de0e69_like ON public.pictures_footage USING btree (proxy_id varchar_pattern_ops);

CREATE INDEX pictures_footagefile_blob_id_98f8f258 ON public.pictures_footagefile USING btree (blob_id);

CREATE INDEX pictures_footagefile_blob_id_98f8f258_like ON public.pictures_footagefile USING btree (blob_id varchar_pattern_ops);

CREATE INDEX pictures_footagefile_footage_id_64e0193d ON public.pictures_footagefile USING btree (footage_id);

CREATE INDEX pictures_picture_blob_id_551b85d8 ON public.pictures_picture USING btree (blob_id);

CREATE INDEX pictures_picture_blob_id_551b85d8_like ON public.pictures_picture USING btree (blob_id varchar_pattern_ops);

CREATE INDEX pictures_picture_owner_id_8c1e59d1 ON public.pictures_picture USING btree (owner_id);

CREATE INDEX pictures_picture_proxy_id_d4857640 ON public.pictures_picture USING btree (proxy_id);

CREATE INDEX pictures_picture_proxy_id_d4857640_like ON public.pictures_picture USING btree (proxy_id varchar_pattern_ops);

CREATE INDEX pictures_pictureset_name_7738b584_like ON public.pictures_pictureset USING btree (name varchar_pattern_ops);

CREATE INDEX pictures_pictureset_owner_id_5fac2735 ON public.pictures_pictureset USING btree (owner_id);

CREATE INDEX pictures_pictureset_pictures_picture_id_3eae890a ON public.pictures_pictureset_pictures USING btree (picture_id);

CREATE INDEX pictures_pictureset_pictures_pictureset_id_3c3c9b7c ON public.pictures_pictureset_pictures USING btree (pictureset_id);

CREATE INDEX presets_recentsetting_person_id_9d05228b ON public.presets_recentsetting USING btree (person_id);

CREATE INDEX procrastinate_events_job_id_fkey_v1 ON public.procrastinate_events USING btree (job_id);

CREATE INDEX procrastinate_jobs_id_lock_idx_v1 ON public.procrastinate_jobs USING btree (id, lock) WHERE (status = ANY (ARRAY['todo'::public.procrastinate_job_status, 'doing'::public.procrastinate_job_status]));

CREATE UNIQUE INDEX procrastinate_jobs_lock_idx_v1 ON public.procrastinate_jobs USING btree (lock) WHERE (status = 'doing'::public.procrastinate_job_status);

CREATE INDEX procrastinate_jobs_priority_idx_v1 ON public.procrastinate_jobs USING btree (priority DESC, id) WHERE (status = 'todo'::public.procrastinate_job_status);

CREATE INDEX procrastinate_jobs_queue_name_idx_v1 ON public.procrastinate_jobs USING btree (queue_name);

CREATE UNIQUE INDEX procrastinate_jobs_queueing_lock_idx_v1 ON public.procrastinate_jobs USING btree (queueing_lock) WHERE (status = 'todo'::public.procrastinate_job_status);

CREATE INDEX procrastinate_periodic_defers_job_id_fkey_v1 ON public.procrastinate_periodic_defers USING btree (job_id);

CREATE INDEX projects_delivery_job_id_d82214e6 ON public.projects_delivery USING btree (job_id);

CREATE INDEX projects_delivery_made_by_id_9960ec7b ON public.projects_delivery USING btree (made_by_id);

CREATE INDEX projects_delivery_project_id_8cfe46b0 ON public.projects_delivery USING btree (project_id);

CREATE INDEX projects_deliveryitem_blob_id_1570e39c ON public.projects_deliveryitem USING btree (blob_id);

CREATE INDEX projects_deliveryitem_blob_id_1570e39c_like ON public.projects_deliveryitem USING btree (blob_id varchar_pattern_ops);

CREATE INDEX projects_deliveryitem_delivery_id_d9b18cff ON public.projects_deliveryitem USING btree (delivery_id);

CREATE INDEX projects_deliveryitem_shot_id_caab31a6 ON public.projects_deliveryitem USING btree (shot_id);

CREATE INDEX projects_keptchoice_owner_id_db2068dc ON public.projects_keptchoice USING btree (owner_id);

CREATE INDEX projects_layer_placed_by_id_d09be9d5 ON public.projects_layer USING btree (placed_by_id);

CREATE INDEX projects_layer_project_id_d9fed4ca ON public.projects_layer USING btree (project_id);

CREATE INDEX projects_layer_scene_id_99e9923b ON public.projects_layer USING btree (scene_id);

CREATE INDEX projects_layer_shot_id_c407d3c9 ON public.projects_layer USING btree (shot_id);

CREATE INDEX projects_layer_version_id_68003de2 ON public.projects_layer USING btree (version_id);

CREATE INDEX projects_membership_person_id_fcedfa13 ON public.projects_membership USING btree (person_id);

CREATE INDEX projects_membership_project_id_5f65bf3f ON public.projects_membership USING btree (project_id);

CREATE INDEX projects_project_owner_id_b940de39 ON public.projects_project USING btree (owner_id);

CREATE INDEX projects_scene_project_id_7414d8b9 ON public.projects_scene USING btree (project_id);

CREATE INDEX projects_shot_picture_id_e19b3f02 ON public.projects_shot USING btree (picture_id);

CREATE INDEX projects_shot_reference_id_41b6470d ON public.projects_shot USING btree (reference_id);

CREATE INDEX projects_shot_scene_id_1ceb7af0 ON public.projects_shot USING btree (scene_id);

CREATE INDEX projects_shotnote_person_id_4869a011 ON public.projects_shotnote USING btree (person_id);

CREATE INDEX projects_shotnote_shot_id_8f38b0b7 ON public.projects_shotnote USING btree (shot_id);

CREATE INDEX socialaccount_socialaccount_user_id_8146e70c ON public.socialaccount_socialaccount USING btree (user_id);

CREATE INDEX socialaccount_socialtoken_account_id_951f210e ON public.socialaccount_socialtoken USING btree (account_id);

CREATE INDEX socialaccount_socialtoken_app_id_636a42d7 ON public.socialaccount_socialtoken USING btree (app_id);

CREATE INDEX spelling_letters ON public.catalogue_spelling USING gin (word public.gin_trgm_ops);

CREATE INDEX stress_stressreport_made_by_id_2a74cf68 ON public.stress_stressreport USING btree (made_by_id);

CREATE UNIQUE INDEX unique_authenticator_type ON public.mfa_authenticator USING btree (user_id, type) WHERE ((type)::text = ANY ((ARRAY['totp'::character varying, 'recovery_codes'::character varying])::text[]));

CREATE UNIQUE INDEX unique_primary_email ON public.account_emailaddress USING btree (user_id, "primary") WHERE "primary";

CREATE UNIQUE INDEX unique_verified_email ON public.account_emailaddress USING btree (email) WHERE verified;

CREATE INDEX uploads_upload_person_id_9154c8bd ON public.uploads_upload USING btree (person_id);

CREATE INDEX uploads_upload_touched_54e2b325 ON public.uploads_upload USING btree (touched);

CREATE INDEX usersessions_usersession_session_key_fd35de43_like ON public.usersessions_usersession USING btree (session_key varchar_pattern_ops);

CREATE INDEX usersessions_usersession_user_id_af5e0a6d ON public.usersessions_usersession USING btree (user_id);

CREATE TRIGGER catalogue_character_noted_delete_old AFTER DELETE ON public.catalogue_character REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('entry_id');

CREATE TRIGGER catalogue_character_noted_insert_new AFTER INSERT ON public.catalogue_character REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('entry_id');

CREATE TRIGGER catalogue_character_noted_update_new AFTER UPDATE ON public.catalogue_character REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('entry_id');

CREATE TRIGGER catalogue_character_noted_update_old AFTER UPDATE ON public.catalogue_character REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('entry_id');

CREATE TRIGGER catalogue_entry_noted_delete_old AFTER DELETE ON public.catalogue_entry REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('id');

CREATE TRIGGER catalogue_entry_noted_insert_new AFTER INSERT ON public.catalogue_entry REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('id');

CREATE TRIGGER catalogue_entry_noted_update_new AFTER UPDATE ON public.catalogue_entry REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('id');

CREATE TRIGGER catalogue_entry_noted_update_old AFTER UPDATE ON public.catalogue_entry REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('id');

CREATE TRIGGER catalogue_entry_tags_noted_delete_old AFTER DELETE ON public.catalogue_entry_tags REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('entry_id');

CREATE TRIGGER catalogue_entry_tags_noted_insert_new AFTER INSERT ON public.catalogue_entry_tags REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('entry_id');

CREATE TRIGGER catalogue_entry_tags_noted_update_new AFTER UPDATE ON public.catalogue_entry_tags REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('entry_id');

CREATE TRIGGER catalogue_entry_tags_noted_update_old AFTER UPDATE ON public.catalogue_entry_tags REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.catalogue_note_change('entry_id');

CREATE TRIGGER catalogue_version_stays BEFORE UPDATE ON public.catalogue_version FOR EACH ROW EXECUTE FUNCTION public.catalogue_version_stays();

CREATE TRIGGER luts_lutfile_noted_delete AFTER DELETE ON public.luts_lutfile REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.luts_note_files();

CREATE TRIGGER luts_lutfile_noted_insert AFTER INSERT ON public.luts_lutfile REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.luts_note_files();

CREATE TRIGGER luts_lutfile_noted_update AFTER UPDATE ON public.luts_lutfile REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION public.luts_note_files();

CREATE TRIGGER procrastinate_jobs_notify_queue_job_aborted_v1 AFTER UPDATE OF abort_requested ON public.procrastinate_jobs FOR EACH ROW WHEN (((old.abort_requested = false) AND (new.abort_requested = true) AND (new.status = 'doing'::public.procrastinate_job_status))) EXECUTE FUNCTION public.procrastinate_notify_queue_abort_job_v1();

CREATE TRIGGER procrastinate_jobs_notify_queue_job_inserted_v1 AFTER INSERT ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.status = 'todo'::public.procrastinate_job_status)) EXECUTE FUNCTION public.procrastinate_notify_queue_job_inserted_v1();

CREATE TRIGGER procrastinate_trigger_abort_requested_events_v1 AFTER UPDATE OF abort_requested ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.abort_requested = true)) EXECUTE FUNCTION public.procrastinate_trigger_abort_requested_events_procedure_v1();

CREATE TRIGGER procrastinate_trigger_delete_jobs_v1 BEFORE DELETE ON public.procrastinate_jobs FOR EACH ROW EXECUTE FUNCTION public.procrastinate_unlink_periodic_defers_v1();

CREATE TRIGGER procrastinate_trigger_scheduled_events_v1 AFTER INSERT OR UPDATE ON public.procrastinate_jobs FOR EACH ROW WHEN (((new.scheduled_at IS NOT NULL) AND (new.status = 'todo'::public.procrastinate_job_status))) EXECUTE FUNCTION public.procrastinate_trigger_function_scheduled_events_v1();

CREATE TRIGGER procrastinate_trigger_status_events_insert_v1 AFTER INSERT ON public.procrastinate_jobs FOR EACH ROW WHEN ((new.status = 'todo'::public.procrastinate_job_status)) EXECUTE FUNCTION public.procrastinate_trigger_function_status_events_insert_v1();

CREATE TRIGGER procrastinate_trigger_status_events_update_v1 AFTER UPDATE OF status ON public.procrastinate_jobs FOR EACH ROW EXECUTE FUNCTION public.procrastinate_trigger_function_status_events_update_v1();

ALTER TABLE ONLY public.account_emailaddress
    ADD CONSTRAINT account_emailaddress_user_id_2c513194_fk_people_person_id FOREIGN KEY (user_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.account_emailconfirmation
    ADD CONSTRAINT account_emailconfirm_email_address_id_5b7f8c58_fk_account_e FOREIGN KEY (email_address_id) REFERENCES public.account_emailaddress(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissio_permission_id_84c5c92e_fk_auth_perm FOREIGN KEY (permission_id) REFERENCES public.auth_permission(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.auth_group_permissions
    ADD CONSTRAINT auth_group_permissions_group_id_b120cbf9_fk_auth_group_id FOREIGN KEY (group_id) REFERENCES public.auth_group(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.auth_permission
    ADD CONSTRAINT auth_permission_content_type_id_2f476e4b_fk_django_co FOREIGN KEY (content_type_id) REFERENCES public.django_content_type(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.boards_board
    ADD CONSTRAINT boards_board_owner_id_b5769a17_fk_people_person_id FOREIGN KEY (owner_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.boards_boardentry
    ADD CONSTRAINT boards_boardentry_board_id_6266edb1_fk_boards_board_id FOREIGN KEY (board_id) REFERENCES public.boards_board(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.boards_boardentry
    ADD CONSTRAINT boards_boardentry_entry_id_db54f691_fk_catalogue_entry_id FOREIGN KEY (entry_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.boards_boardpicture
    ADD CONSTRAINT boards_boardpicture_board_id_4c560537_fk_boards_board_id FOREIGN KEY (board_id) REFERENCES public.boards_board(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.boards_boardpicture
    ADD CONSTRAINT boards_boardpicture_picture_id_df5c35c0_fk_pictures_picture_id FOREIGN KEY (picture_id) REFERENCES public.pictures_picture(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.boards_verdict
    ADD CONSTRAINT boards_verdict_board_id_920cc145_fk_boards_board_id FOREIGN KEY (board_id) REFERENCES public.boards_board(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.boards_verdict
    ADD CONSTRAINT boards_verdict_entry_id_c0d3189e_fk_catalogue_entry_id FOREIGN KEY (entry_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.boards_verdict
    ADD CONSTRAINT boards_verdict_person_id_1370c557_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_category
    ADD CONSTRAINT catalogue_category_parent_id_4479cbbf_fk_catalogue_category_id FOREIGN KEY (parent_id) REFERENCES public.catalogue_category(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_character
    ADD CONSTRAINT catalogue_character_entry_id_769bb9d4_fk_catalogue_entry_id FOREIGN KEY (entry_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_entry
    ADD CONSTRAINT catalogue_entry_category_id_2a8c2556_fk_catalogue_category_id FOREIGN KEY (category_id) REFERENCES public.catalogue_category(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_entry_favourite_of
    ADD CONSTRAINT catalogue_entry_favo_entry_id_1abfe3d0_fk_catalogue FOREIGN KEY (entry_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_entry_favourite_of
    ADD CONSTRAINT catalogue_entry_favo_person_id_063361e2_fk_people_pe FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_entry
    ADD CONSTRAINT catalogue_entry_latest_id_756fee40_fk_catalogue_version_id FOREIGN KEY (latest_id) REFERENCES public.catalogue_version(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_entry
    ADD CONSTRAINT catalogue_entry_merged_into_id_2f6231bd_fk_catalogue_entry_id FOREIGN KEY (merged_into_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_entry
    ADD CONSTRAINT catalogue_entry_owner_id_67edd04b_fk_people_person_id FOREIGN KEY (owner_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_entry
    ADD CONSTRAINT catalogue_entry_published_id_e001da00_fk_catalogue_version_id FOREIGN KEY (published_id) REFERENCES public.catalogue_version(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_entry_tags
    ADD CONSTRAINT catalogue_entry_tags_entry_id_b5314743_fk_catalogue_entry_id FOREIGN KEY (entry_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_entry_tags
    ADD CONSTRAINT catalogue_entry_tags_tag_id_51db0c4c_fk_catalogue_tag_id FOREIGN KEY (tag_id) REFERENCES public.catalogue_tag(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_keptapart
    ADD CONSTRAINT catalogue_keptapart_first_id_854845e5_fk_catalogue_entry_id FOREIGN KEY (first_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_keptapart
    ADD CONSTRAINT catalogue_keptapart_person_id_b504092b_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_keptapart
    ADD CONSTRAINT catalogue_keptapart_second_id_a50c573a_fk_catalogue_entry_id FOREIGN KEY (second_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_notice
    ADD CONSTRAINT catalogue_notice_by_id_753bf88a_fk_people_person_id FOREIGN KEY (by_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_notice
    ADD CONSTRAINT catalogue_notice_person_id_3b19e952_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_notice
    ADD CONSTRAINT catalogue_notice_version_id_02a504be_fk_catalogue_version_id FOREIGN KEY (version_id) REFERENCES public.catalogue_version(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_pin
    ADD CONSTRAINT catalogue_pin_answers_id_14fdc0ff_fk_catalogue_pin_id FOREIGN KEY (answers_id) REFERENCES public.catalogue_pin(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_pin
    ADD CONSTRAINT catalogue_pin_person_id_6e2ac294_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_pin
    ADD CONSTRAINT catalogue_pin_picture_id_a792e565_fk_pictures_picture_id FOREIGN KEY (picture_id) REFERENCES public.pictures_picture(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_pin
    ADD CONSTRAINT catalogue_pin_settled_by_id_d3a87fce_fk_people_person_id FOREIGN KEY (settled_by_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_pin
    ADD CONSTRAINT catalogue_pin_version_id_037c8432_fk_catalogue_version_id FOREIGN KEY (version_id) REFERENCES public.catalogue_version(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_review
    ADD CONSTRAINT catalogue_review_person_id_c7351359_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_review
    ADD CONSTRAINT catalogue_review_version_id_7aeb2f23_fk_catalogue_version_id FOREIGN KEY (version_id) REFERENCES public.catalogue_version(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_savedview
    ADD CONSTRAINT catalogue_savedview_owner_id_943da9f0_fk_people_person_id FOREIGN KEY (owner_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_share
    ADD CONSTRAINT catalogue_share_entry_id_0db02f43_fk_catalogue_entry_id FOREIGN KEY (entry_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_share
    ADD CONSTRAINT catalogue_share_person_id_91746184_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_share
    ADD CONSTRAINT catalogue_share_project_id_affa25b9_fk_projects_project_id FOREIGN KEY (project_id) REFERENCES public.projects_project(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_version
    ADD CONSTRAINT catalogue_version_entry_id_201449f2_fk_catalogue_entry_id FOREIGN KEY (entry_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_version
    ADD CONSTRAINT catalogue_version_from_version_id_1c9a559c_fk_catalogue FOREIGN KEY (from_version_id) REFERENCES public.catalogue_version(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.catalogue_version
    ADD CONSTRAINT catalogue_version_made_by_id_cf917756_fk_people_person_id FOREIGN KEY (made_by_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.encodings_teamencoding
    ADD CONSTRAINT encodings_teamencoding_owner_id_c5991478_fk_people_person_id FOREIGN KEY (owner_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_galleryentry
    ADD CONSTRAINT guests_galleryentry_entry_id_23bcf6cf_fk_catalogue_entry_id FOREIGN KEY (entry_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_galleryentry
    ADD CONSTRAINT guests_galleryentry_link_id_c97f7585_fk_guests_guestlink_id FOREIGN KEY (link_id) REFERENCES public.guests_guestlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_gallerypicture
    ADD CONSTRAINT guests_gallerypictur_picture_id_f4e98685_fk_pictures_ FOREIGN KEY (picture_id) REFERENCES public.pictures_picture(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_gallerypicture
    ADD CONSTRAINT guests_gallerypicture_link_id_d8441b45_fk_guests_guestlink_id FOREIGN KEY (link_id) REFERENCES public.guests_guestlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_guest
    ADD CONSTRAINT guests_guest_link_id_3063c37a_fk_guests_guestlink_id FOREIGN KEY (link_id) REFERENCES public.guests_guestlink(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_guestlink
    ADD CONSTRAINT guests_guestlink_board_id_c9bd3dc3_fk_boards_board_id FOREIGN KEY (board_id) REFERENCES public.boards_board(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_guestlink
    ADD CONSTRAINT guests_guestlink_made_by_id_ae96b5c8_fk_people_person_id FOREIGN KEY (made_by_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_guestlink
    ADD CONSTRAINT guests_guestlink_project_id_8c66a73b_fk_projects_project_id FOREIGN KEY (project_id) REFERENCES public.projects_project(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_guestremark
    ADD CONSTRAINT guests_guestremark_guest_id_554bbc46_fk_guests_guest_id FOREIGN KEY (guest_id) REFERENCES public.guests_guest(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_guestremark
    ADD CONSTRAINT guests_guestremark_note_id_c9553a68_fk_projects_shotnote_id FOREIGN KEY (note_id) REFERENCES public.projects_shotnote(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_guestremark
    ADD CONSTRAINT guests_guestremark_pin_id_3de17963_fk_catalogue_pin_id FOREIGN KEY (pin_id) REFERENCES public.catalogue_pin(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_guestverdict
    ADD CONSTRAINT guests_guestverdict_entry_id_ba689de7_fk_catalogue_entry_id FOREIGN KEY (entry_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_guestverdict
    ADD CONSTRAINT guests_guestverdict_guest_id_cea6f6d2_fk_guests_guest_id FOREIGN KEY (guest_id) REFERENCES public.guests_guest(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.guests_guestverdict
    ADD CONSTRAINT guests_guestverdict_shot_id_b88f4f16_fk_projects_shot_id FOREIGN KEY (shot_id) REFERENCES public.projects_shot(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.hooks_call
    ADD CONSTRAINT hooks_call_hook_id_df8c32c8_fk_hooks_hook_id FOREIGN KEY (hook_id) REFERENCES public.hooks_hook(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.hooks_hook
    ADD CONSTRAINT hooks_hook_made_by_id_0cc0e6d6_fk_people_person_id FOREIGN KEY (made_by_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.jobs_job_blobs
    ADD CONSTRAINT jobs_job_blobs_blob_id_1fca126c_fk_common_blob_sha256 FOREIGN KEY (blob_id) REFERENCES public.common_blob(sha256) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.jobs_job_blobs
    ADD CONSTRAINT jobs_job_blobs_job_id_7d062bad_fk_jobs_job_id FOREIGN KEY (job_id) REFERENCES public.jobs_job(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.jobs_job
    ADD CONSTRAINT jobs_job_parent_id_675bb714_fk_jobs_job_id FOREIGN KEY (parent_id) REFERENCES public.jobs_job(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.jobs_job
    ADD CONSTRAINT jobs_job_person_id_a82d0d0a_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.looks_lookdraft
    ADD CONSTRAINT looks_lookdraft_edited_by_id_ad6f08cd_fk_people_person_id FOREIGN KEY (edited_by_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.looks_lookdraft
    ADD CONSTRAINT looks_lookdraft_entry_id_40ad175a_fk_catalogue_entry_id FOREIGN KEY (entry_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.looks_presence
    ADD CONSTRAINT looks_presence_look_id_8f774b59_fk_catalogue_entry_id FOREIGN KEY (look_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.looks_presence
    ADD CONSTRAINT looks_presence_person_id_84bf35a2_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.luts_lut
    ADD CONSTRAINT luts_lut_version_id_3e96e2b0_fk_catalogue_version_id FOREIGN KEY (version_id) REFERENCES public.catalogue_version(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.luts_lutfile
    ADD CONSTRAINT luts_lutfile_blob_id_ca4def2a_fk_common_blob_sha256 FOREIGN KEY (blob_id) REFERENCES public.common_blob(sha256) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.luts_lutfile
    ADD CONSTRAINT luts_lutfile_lut_id_fe603db1_fk_luts_lut_id FOREIGN KEY (lut_id) REFERENCES public.luts_lut(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.luts_pack
    ADD CONSTRAINT luts_pack_job_id_5c8db6c1_fk_jobs_job_id FOREIGN KEY (job_id) REFERENCES public.jobs_job(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.luts_pack
    ADD CONSTRAINT luts_pack_person_id_89bbc5b3_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.luts_packrow
    ADD CONSTRAINT luts_packrow_blob_id_cc2d52f3_fk_common_blob_sha256 FOREIGN KEY (blob_id) REFERENCES public.common_blob(sha256) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.luts_packrow
    ADD CONSTRAINT luts_packrow_kept_id_ea7a051a_fk_catalogue_entry_id FOREIGN KEY (kept_id) REFERENCES public.catalogue_entry(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.luts_packrow
    ADD CONSTRAINT luts_packrow_pack_id_87b7a84e_fk_luts_pack_id FOREIGN KEY (pack_id) REFERENCES public.luts_pack(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.mfa_authenticator
    ADD CONSTRAINT mfa_authenticator_user_id_0c3a50c0_fk_people_person_id FOREIGN KEY (user_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.people_activity
    ADD CONSTRAINT people_activity_person_id_858099ac_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.people_link
    ADD CONSTRAINT people_link_made_by_id_596a6084_fk_people_person_id FOREIGN KEY (made_by_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.people_link
    ADD CONSTRAINT people_link_person_id_08b3677c_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.people_person_groups
    ADD CONSTRAINT people_person_groups_group_id_3ba87606_fk_auth_group_id FOREIGN KEY (group_id) REFERENCES public.auth_group(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.people_person_groups
    ADD CONSTRAINT people_person_groups_person_id_b7e415fc_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.people_person_user_permissions
    ADD CONSTRAINT people_person_user_p_permission_id_24fa752f_fk_auth_perm FOREIGN KEY (permission_id) REFERENCES public.auth_permission(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.people_person_user_permissions
    ADD CONSTRAINT people_person_user_p_person_id_755c9d0c_fk_people_pe FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.people_token
    ADD CONSTRAINT people_token_person_id_8b257082_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.pictures_footage
    ADD CONSTRAINT pictures_footage_picture_id_e1207458_fk_pictures_picture_id FOREIGN KEY (picture_id) REFERENCES public.pictures_picture(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.pictures_footage
    ADD CONSTRAINT pictures_footage_proxy_id_b5de0e69_fk_common_blob_sha256 FOREIGN KEY (proxy_id) REFERENCES public.common_blob(sha256) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.pictures_footagefile
    ADD CONSTRAINT pictures_footagefile_blob_id_98f8f258_fk_common_blob_sha256 FOREIGN KEY (blob_id) REFERENCES public.common_blob(sha256) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.pictures_footagefile
    ADD CONSTRAINT pictures_footagefile_footage_id_64e0193d_fk_pictures_ FOREIGN KEY (footage_id) REFERENCES public.pictures_footage(picture_id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.pictures_picture
    ADD CONSTRAINT pictures_picture_blob_id_551b85d8_fk_common_blob_sha256 FOREIGN KEY (blob_id) REFERENCES public.common_blob(sha256) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.pictures_picture
    ADD CONSTRAINT pictures_picture_owner_id_8c1e59d1_fk_people_person_id FOREIGN KEY (owner_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.pictures_picture
    ADD CONSTRAINT pictures_picture_proxy_id_d4857640_fk_common_blob_sha256 FOREIGN KEY (proxy_id) REFERENCES public.common_blob(sha256) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.pictures_pictureset_pictures
    ADD CONSTRAINT pictures_pictureset__picture_id_3eae890a_fk_pictures_ FOREIGN KEY (picture_id) REFERENCES public.pictures_picture(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.pictures_pictureset_pictures
    ADD CONSTRAINT pictures_pictureset__pictureset_id_3c3c9b7c_fk_pictures_ FOREIGN KEY (pictureset_id) REFERENCES public.pictures_pictureset(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.pictures_pictureset
    ADD CONSTRAINT pictures_pictureset_owner_id_5fac2735_fk_people_person_id FOREIGN KEY (owner_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.presets_recentsetting
    ADD CONSTRAINT presets_recentsetting_person_id_9d05228b_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.procrastinate_events
    ADD CONSTRAINT procrastinate_events_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.procrastinate_jobs(id) ON DELETE CASCADE;

ALTER TABLE ONLY public.procrastinate_jobs
    ADD CONSTRAINT procrastinate_jobs_worker_id_fkey FOREIGN KEY (worker_id) REFERENCES public.procrastinate_workers(id) ON DELETE SET NULL;

ALTER TABLE ONLY public.procrastinate_periodic_defers
    ADD CONSTRAINT procrastinate_periodic_defers_job_id_fkey FOREIGN KEY (job_id) REFERENCES public.procrastinate_jobs(id);

ALTER TABLE ONLY public.projects_delivery
    ADD CONSTRAINT projects_delivery_job_id_d82214e6_fk_jobs_job_id FOREIGN KEY (job_id) REFERENCES public.jobs_job(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_delivery
    ADD CONSTRAINT projects_delivery_made_by_id_9960ec7b_fk_people_person_id FOREIGN KEY (made_by_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_delivery
    ADD CONSTRAINT projects_delivery_project_id_8cfe46b0_fk_projects_project_id FOREIGN KEY (project_id) REFERENCES public.projects_project(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_deliveryitem
    ADD CONSTRAINT projects_deliveryite_delivery_id_d9b18cff_fk_projects_ FOREIGN KEY (delivery_id) REFERENCES public.projects_delivery(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_deliveryitem
    ADD CONSTRAINT projects_deliveryitem_blob_id_1570e39c_fk_common_blob_sha256 FOREIGN KEY (blob_id) REFERENCES public.common_blob(sha256) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_deliveryitem
    ADD CONSTRAINT projects_deliveryitem_shot_id_caab31a6_fk_projects_shot_id FOREIGN KEY (shot_id) REFERENCES public.projects_shot(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_keptchoice
    ADD CONSTRAINT projects_keptchoice_owner_id_db2068dc_fk_people_person_id FOREIGN KEY (owner_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_layer
    ADD CONSTRAINT projects_layer_placed_by_id_d09be9d5_fk_people_person_id FOREIGN KEY (placed_by_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_layer
    ADD CONSTRAINT projects_layer_project_id_d9fed4ca_fk_projects_project_id FOREIGN KEY (project_id) REFERENCES public.projects_project(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_layer
    ADD CONSTRAINT projects_layer_scene_id_99e9923b_fk_projects_scene_id FOREIGN KEY (scene_id) REFERENCES public.projects_scene(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_layer
    ADD CONSTRAINT projects_layer_shot_id_c407d3c9_fk_projects_shot_id FOREIGN KEY (shot_id) REFERENCES public.projects_shot(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_layer
    ADD CONSTRAINT projects_layer_version_id_68003de2_fk_catalogue_version_id FOREIGN KEY (version_id) REFERENCES public.catalogue_version(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_membership
    ADD CONSTRAINT projects_membership_person_id_fcedfa13_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_membership
    ADD CONSTRAINT projects_membership_project_id_5f65bf3f_fk_projects_project_id FOREIGN KEY (project_id) REFERENCES public.projects_project(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_project
    ADD CONSTRAINT projects_project_owner_id_b940de39_fk_people_person_id FOREIGN KEY (owner_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_scene
    ADD CONSTRAINT projects_scene_project_id_7414d8b9_fk_projects_project_id FOREIGN KEY (project_id) REFERENCES public.projects_project(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_shot
    ADD CONSTRAINT projects_shot_picture_id_e19b3f02_fk_pictures_picture_id FOREIGN KEY (picture_id) REFERENCES public.pictures_picture(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_shot
    ADD CONSTRAINT projects_shot_reference_id_41b6470d_fk_pictures_picture_id FOREIGN KEY (reference_id) REFERENCES public.pictures_picture(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_shot
    ADD CONSTRAINT projects_shot_scene_id_1ceb7af0_fk_projects_scene_id FOREIGN KEY (scene_id) REFERENCES public.projects_scene(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_shotfigures
    ADD CONSTRAINT projects_shotfigures_shot_id_31bdfedf_fk_projects_shot_id FOREIGN KEY (shot_id) REFERENCES public.projects_shot(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_shotnote
    ADD CONSTRAINT projects_shotnote_person_id_4869a011_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.projects_shotnote
    ADD CONSTRAINT projects_shotnote_shot_id_8f38b0b7_fk_projects_shot_id FOREIGN KEY (shot_id) REFERENCES public.projects_shot(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.socialaccount_socialtoken
    ADD CONSTRAINT socialaccount_social_account_id_951f210e_fk_socialacc FOREIGN KEY (account_id) REFERENCES public.socialaccount_socialaccount(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.socialaccount_socialtoken
    ADD CONSTRAINT socialaccount_social_app_id_636a42d7_fk_socialacc FOREIGN KEY (app_id) REFERENCES public.socialaccount_socialapp(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.socialaccount_socialaccount
    ADD CONSTRAINT socialaccount_social_user_id_8146e70c_fk_people_pe FOREIGN KEY (user_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.stress_stressreport
    ADD CONSTRAINT stress_stressreport_made_by_id_2a74cf68_fk_people_person_id FOREIGN KEY (made_by_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.stress_stressreport
    ADD CONSTRAINT stress_stressreport_version_id_b268699c_fk_catalogue_version_id FOREIGN KEY (version_id) REFERENCES public.catalogue_version(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.uploads_upload
    ADD CONSTRAINT uploads_upload_person_id_9154c8bd_fk_people_person_id FOREIGN KEY (person_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;

ALTER TABLE ONLY public.usersessions_usersession
    ADD CONSTRAINT usersessions_usersession_user_id_af5e0a6d_fk_people_person_id FOREIGN KEY (user_id) REFERENCES public.people_person(id) DEFERRABLE INITIALLY DEFERRED;
