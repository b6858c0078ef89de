using System.Data;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Dapper;
using Grate.Core;
using Grate.Core.Firebox;
using Grate.Core.Visits;
using Npgsql;

namespace Grate.Store;

/// <summary>A stove with its customer and what the records know of it.</summary>
/// <param name="Customer">Whose it is.</param>
/// <param name="Firm">The firm.</param>
/// <param name="History">What the records know.</param>
/// <param name="ReadAt">When they were read, by the database's clock.</param>
public sealed record StoveRecord(Customer Customer, Firm Firm, StoveHistory History, DateTimeOffset ReadAt);

/// <summary>
/// The one place that reads what answers rest on: house, stove, flue, what earlier visits found, and what the stations of a
/// visit hold. A single statement writes each as one JSON document, however many are asked for.
/// </summary>
public sealed class HistoryStore(NpgsqlDataSource database, Parts parts)
{
    /// <summary>How the core's records are read from the database's JSON.</summary>
    internal static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        TypeInfoResolver = JsonTypeInfoResolver.Combine(CoreJson.Default, new DefaultJsonTypeInfoResolver()),
    };

    // Of a fact that two steps found the later step's stands last.
    private const string EarlierFacts =
        "(select coalesce(json_agg(json_build_object('name', x.name, 'value', x.value, 'word', x.word) order by array_position(@steps, x.step), x.name), '[]') from station_facts x where x.visit_id = v.id and (v.appliance_id = a.id or x.name like 'deposits.%'))";

    // Of a stove that stood on the same flue before, what was found in the flue and along it.
    private const string EarlierFound =
        "(select coalesce(json_agg(json_build_object('step', n.step, 'part', n.part, 'condition', n.condition, 'lookAgain', n.look_again)), '[]') from findings n where n.visit_id = v.id and (v.appliance_id = a.id or n.part in ('flue', 'cap', 'clean-out')))";

    // What was kept for the model, this stove's own among it: a model is what its plate calls it, whatever the spelling's case.
    private static readonly string ModelLists = $"""
        (select coalesce(json_agg(to_json(l)), '[]') from (
            select v.id, v.planned_start as "plannedStart", t.name as by,
                (select json_agg(json_build_object('name', y.name, 'value', y.value, 'word', y.word)) from station_facts y where y.visit_id = v.id and y.name like '{StripFacts.Begins}%') as facts
            from station_facts x join visits v on v.id = x.visit_id join appliances k on k.id = v.appliance_id join people t on t.id = v.technician_id
            where x.name = '{StripFacts.ForModel}' and v.state = 'signed' and v.planned_start < asked.before
                and k.kind = a.kind and k.combustor = a.combustor and lower(btrim(k.model)) = lower(btrim(a.model))
            order by v.planned_start desc limit 5) l)
        """;

    // What the firm's closed troubles were, by kind of stove, and its own numbers in their table.
    private const string Closed = """
        (select coalesce(json_agg(json_build_object('kind', t.kind, 'combustor', t.combustor, 'visits', t.visits, 'causes', t.causes)), '[]') from (
            select n.kind, n.combustor, max(n.times) filter (where n.name = 'trouble.closed') as visits,
                coalesce(json_object_agg(substr(n.name, 15), n.times) filter (where n.name like 'trouble.cause.%'), '{}') as causes
            from (select k.kind, k.combustor, x.name, count(*)::int as times
                  from station_facts x join visits v on v.id = x.visit_id join appliances k on k.id = v.appliance_id
                  where x.name like 'trouble.%' and (x.name = 'trouble.closed' or x.name like 'trouble.cause.%') and v.state = 'signed' and v.planned_start < asked.before
                  group by 1, 2, 3) n
            group by 1, 2 having max(n.times) filter (where n.name = 'trouble.closed') is not null) t)
        """;

    private const string Tuned = """
        (select coalesce(json_object_agg(t.what, t.value), '{}') from trouble_numbers t)
        """;

    private const string Lives = """
        (select coalesce(json_object_agg(l.part, json_build_object('quarterYears', l.quarter_years, 'halfYears', l.half_years)), '{}') from part_lives l)
        """;

    /// <summary>Whether steel liners are in the flue of <c>flue_versions f</c>; takes their constructions as <c>@liners</c>.</summary>
    internal const string Liner = "exists (select from flue_segments g where g.version_id = f.id and g.construction = any(@liners)) as liner";

    /// <summary>A customer of <c>customers c</c> as JSON.</summary>
    internal const string CustomerJson = "json_build_object('id', c.id, 'name', c.name, 'phone', c.phone, 'email', c.email, 'note', c.note, 'contacts', c.contacts, 'language', c.language, 'wish', c.wish)";

    /// <summary>A house of <c>sites s</c> as JSON.</summary>
    internal const string HouseJson = """
        json_build_object('id', s.id, 'street', s.street, 'place', s.place, 'latitude', s.latitude, 'longitude', s.longitude,
                'altitudeM', s.altitude_m, 'volumeM3', s.house_volume_m3, 'ach50', s.ach50, 'builtEra', s.built_era, 'monthlyC', s.monthly_c,
                'storeyNames', s.storey_names, 'storeyHeightsM', s.storey_heights_m, 'widthM', s.house_width_m, 'roofPitchDeg', s.roof_pitch_deg, 'groundM', s.ground_m,
                'obstacles', (select coalesce(json_agg(json_build_object('name', o.name, 'acrossM', o.across_m, 'widthM', o.width_m, 'topM', o.top_m) order by o.position), '[]')
                              from site_obstacles o where o.site_id = s.id))
        """;

    /// <summary>A stove of <c>appliances a</c> as JSON.</summary>
    internal const string StoveJson = """
        json_build_object('id', a.id, 'kind', a.kind, 'combustor', a.combustor, 'model', a.model, 'year', a.year, 'room', a.room,
                'nominalKw', a.nominal_kw, 'labelMinPa', a.label_min_pa, 'labelMaxPa', a.label_max_pa, 'storey', a.storey, 'collarHeightM', a.collar_height_m, 'measures', a.measures, 'label', a.label,
                'flueLook', case when a.look_since is not null then json_build_object('since', a.look_since, 'why', a.look_why) end)
        """;

    // A firm's habits change: only its newest 300 visits of a kind are looked through.
    // asked: stove, flue, before (only visits before this count). One row of it is one document.
    private static readonly string Document = $"""
        json_build_object(
            'readAt', statement_timestamp(),
            'firm', (select json_build_object('name', m.name, 'place', m.place, 'timeZone', m.time_zone, 'inspectionMonths', m.inspection_months,
                        'serviceHoursWeek', m.service_hours_week, 'demo', m.demo, 'ways', m.ways, 'contact', m.contact) from firm m),
            'customer', {CustomerJson},
            'house', {HouseJson},
            'stove', {StoveJson},
            'sweptTold', a.swept_told, 'assumed', a.assumed || s.assumed,
            'flue', json_build_object('id', f.id, 'number', f.number, 'validFrom', f.valid_from, 'stoveXM', f.stove_x_m,
                'flue', json_build_object('cap', f.cap, 'screen', f.screen,
                    'segments', (select json_agg(json_build_object('label', g.label, 'construction', g.construction,
                        'shape', case when g.diameter_m is null then json_build_object('kind', 'rectangular', 'widthM', g.width_m, 'depthM', g.depth_m)
                                 else json_build_object('kind', 'round', 'diameterM', g.diameter_m) end,
                        'riseM', g.rise_m, 'lengthM', g.length_m, 'surroundings', g.surroundings, 'resistanceM2KW', g.resistance_m2kw,
                        'roughnessMm', g.roughness_mm, 'fittings', g.fittings, 'depositMm', 0, 'toward', g.toward, 'id', coalesce(g.id, g.label)) order by g.position)
                        from flue_segments g where g.version_id = f.id))),
            'earlier', (select coalesce(json_agg(json_build_object('id', v.id, 'plannedStart', v.planned_start, 'thisFlue', v.flue_version_id = f.id, 'nextInspection', case when v.appliance_id = a.id then v.next_inspection end,
                    'facts', {EarlierFacts},
                    'found', {EarlierFound})
                    order by v.planned_start), '[]')
                from visits v where v.appliance_id = any(a.stood_before || a.id) and v.state = 'signed' and v.planned_start < asked.before),
            'stops', (select coalesce(json_agg(json_build_object('code', t.code, 'setAt', t.set_at) order by t.set_at), '[]')
                from safety_stops t where t.appliance_id = a.id and t.cleared_at is null),
            'modelLists', {ModelLists},
            'closed', {Closed},
            'tuned', {Tuned},
            'lives', {Lives},
            'learned', (select coalesce(json_agg(to_json(l)), '[]') from (
                select x.name, percentile_cont(0.5) within group (order by x.value) as median, count(*)::int as visits
                from (select v.id from visits v join appliances k on k.id = v.appliance_id
                      where cardinality(@learns) > 0 and k.kind = a.kind and v.state = 'signed' and v.planned_start < asked.before
                      order by v.planned_start desc limit 300) newest
                join station_facts x on x.visit_id = newest.id and x.name = any(@learns) and x.value is not null
                group by x.name) l)
        """;

    /// <summary>Words of the steps in working order, as <see cref="Visit"/> asks for them.</summary>
    internal static readonly string[] StepsInOrder = [.. VisitSteps.All.Select(s => s.Code)];

    internal const string Sources = """
        join appliances a on a.id = asked.stove
        join sites s on s.id = a.site_id
        join customers c on c.id = s.customer_id
        join flue_versions f on f.id = asked.flue
        """;

    /// <summary>Visits as <see cref="Visit"/> asks for them.</summary>
    internal const string AskedVisits = "select v.id, v.appliance_id as stove, v.flue_version_id as flue, v.planned_start as before from visits v";

    /// <summary>The row of a visit of <c>asked</c> as JSON.</summary>
    internal const string VisitJson = """
        (select json_build_object('id', v.id, 'applianceId', v.appliance_id, 'flueVersionId', v.flue_version_id, 'technicianId', v.technician_id, 'technician', t.name,
            'plannedStart', v.planned_start, 'plannedEnd', v.planned_end, 'purpose', v.purpose, 'complaint', v.complaint, 'state', v.state,
            'signedAt', v.signed_at, 'signedBy', p.name, 'signedById', v.signed_by, 'nextInspection', v.next_inspection, 'inspects', v.inspects, 'leftOut', v.left_out::text, 'helpers', v.helpers)
            from visits v join people t on t.id = v.technician_id left join people p on p.id = v.signed_by where v.id = asked.id)
        """;

    /// <summary>A visit with everything its answers rest on; its last bracket is left open.</summary>
    internal static readonly string Visit = $"""
        {Document},
            'visit', {VisitJson},
            'facts', (select coalesce(json_agg(json_build_object('step', x.step, 'station', x.station, 'name', x.name, 'value', x.value, 'word', x.word, 'savedAt', e.saved_at)), '[]')
                from station_facts x join station_entries e using (visit_id, step, station) where x.visit_id = asked.id),
            'found', (select coalesce(json_agg(json_build_object('step', n.step, 'part', n.part, 'condition', n.condition, 'lookAgain', n.look_again)), '[]')
                from findings n where n.visit_id = asked.id)
        """;

    /// <summary>A stove as it stands now, or null where there is none or it has no flue.</summary>
    public async Task<StoveRecord?> StoveAsync(Guid id) => await StovesAsync([id], parts.Learns) is [var found] ? found : null;

    /// <summary>Stoves as they stand now, in no order; stoves without a flue are left out.</summary>
    /// <param name="ids">Which.</param>
    /// <param name="learns">Facts whose median over the firm's visits is wanted.</param>
    /// <param name="reads">How the names of the facts of earlier visits begin that are wanted, where it is not all of them.</param>
    public async Task<IReadOnlyList<StoveRecord>> StovesAsync(Guid[] ids, string[] learns, IReadOnlyList<string>? reads = null)
    {
        await using var connection = await database.OpenConnectionAsync();
        // Of many stoves the facts are most of it, and faster as rows; they are of one moment with the documents they belong to.
        await using var moment = reads is null ? null : await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead);
        var documents = await connection.QueryAsync<string>($"""
            with asked as (
                select distinct on (f.appliance_id) f.appliance_id as stove, f.id as flue, 'infinity'::timestamptz as before
                from flue_versions f where f.appliance_id = any(@ids) order by f.appliance_id, f.number desc)
            select {(reads is null ? Document : Document.Replace(EarlierFacts, "'[]'::json", StringComparison.Ordinal).Replace(ModelLists, "'[]'::json", StringComparison.Ordinal).Replace(Closed, "'[]'::json", StringComparison.Ordinal))})::text from asked {Sources}
            """, new { ids, learns, steps = StepsInOrder });
        var stoves = documents.Select(d => Read<StoveDocument>(d));
        if (reads is not null)
        {
            var facts = await FactsAsync(connection, ids, reads);
            stoves = stoves.Select(d => d with { Earlier = [.. d.Earlier.Select(e => facts.TryGetValue(e.Id, out var found) ? e with { Facts = [.. found.OrderBy(f => f.Step).Select(f => f.Fact)] } : e)] });
        }
        return [.. stoves.Select(d => new StoveRecord(d.Customer, d.Firm, d.History(), d.ReadAt))];
    }

    // By visit, each with the place of its step.
    private static async Task<Dictionary<Guid, List<(int Step, Fact Fact)>>> FactsAsync(NpgsqlConnection connection, Guid[] ids, IReadOnlyList<string> reads)
    {
        var facts = new Dictionary<Guid, List<(int Step, Fact Fact)>>();
        await foreach (var (visit, step, name, value, word) in connection.QueryUnbufferedAsync<(Guid, int, string, double?, string?)>("""
            select v.id, array_position(@steps, x.step), x.name, x.value, x.word from visits v join station_facts x on x.visit_id = v.id
            where v.appliance_id = any(@ids) and v.state = 'signed' and x.name like any(@names)
            union all
            select v.id, array_position(@steps, x.step), x.name, x.value, x.word from appliances a join visits v on v.appliance_id = any(a.stood_before) join station_facts x on x.visit_id = v.id
            where a.id = any(@ids) and a.stood_before <> '{}' and v.state = 'signed' and x.name like 'deposits.%' and x.name like any(@names)
            """, new { ids, steps = StepsInOrder, names = reads.Select(r => r + "%").ToArray() }))
        {
            if (!facts.TryGetValue(visit, out var found))
                facts[visit] = found = [];
            found.Add((step, new Fact(name, value, word)));
        }
        return facts;
    }

    /// <summary>A visit with everything its answers rest on, or null.</summary>
    public async Task<VisitRecord?> VisitAsync(Guid id, UnitSystem units, DateTimeOffset now) => await VisitsAsync([id], units, now, parts.Learns) is [var found] ? found : null;

    /// <summary>Visits with everything their answers rest on, by their start; of a signed one, what it showed when it was signed.</summary>
    /// <param name="ids">Which.</param>
    /// <param name="units">Units of the sentences.</param>
    /// <param name="now">Now: it tells today.</param>
    /// <param name="learns">Facts whose median over the firm's visits is wanted.</param>
    public async Task<IReadOnlyList<VisitRecord>> VisitsAsync(Guid[] ids, UnitSystem units, DateTimeOffset now, string[] learns)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await VisitsAsync(connection, ids, units, now, learns);
    }

    /// <summary>The same, in a transaction.</summary>
    public static async Task<IReadOnlyList<VisitRecord>> VisitsAsync(NpgsqlConnection connection, Guid[] ids, UnitSystem units, DateTimeOffset now, string[] learns)
    {
        var documents = await connection.QueryAsync<string>($"""
            with asked as ({AskedVisits} where v.id = any(@ids))
            select case when w.visit_id is null then ({Visit})::text) else w.shown::jsonb->>'record' end
            from asked {Sources} left join signed_visits w on w.visit_id = asked.id order by asked.before
            """, new { ids, learns, steps = StepsInOrder });
        return [.. documents.Select(d => Read<VisitDocument>(d)).Select(d => new VisitRecord(d.Visit, d.Customer, d.Firm, new VisitContext(
            d.History(), d.Firm.Day(d.Visit.PlannedStart), d.Firm.Day(now), units,
            [.. d.Facts.Select(f => new VisitFact(f.Step, f.Station, f.Name, f.Value, f.Word, d.Firm.Time(f.SavedAt)))], d.Found)))];
    }

    private static T Read<T>(string document) => JsonSerializer.Deserialize<T>(document, Json)!;

    private sealed record EarlierDocument(Guid Id, DateTimeOffset PlannedStart, bool ThisFlue, DateOnly? NextInspection, IReadOnlyList<Fact> Facts, IReadOnlyList<PartFound> Found);

    private sealed record ModelListDocument(Guid Id, DateTimeOffset PlannedStart, string By, IReadOnlyList<Fact> Facts);

    private sealed record StopDocument(string Code, DateTimeOffset SetAt);

    private record StoveDocument(DateTimeOffset ReadAt, Firm Firm, Customer Customer, House House, Stove Stove, FlueVersion Flue, IReadOnlyList<EarlierDocument> Earlier,
        IReadOnlyList<StopDocument> Stops, IReadOnlyList<LearnedFact> Learned)
    {
        // What was signed before there were such lists, or such a record, holds none.
        public IReadOnlyList<ClosedTroubles>? Closed { get; init; }

        public IReadOnlyDictionary<string, double>? Tuned { get; init; }

        public IReadOnlyDictionary<string, LearnedLife>? Lives { get; init; }

        public IReadOnlyList<ModelListDocument>? ModelLists { get; init; }

        public DateOnly? SweptTold { get; init; }

        public IReadOnlyList<string>? Assumed { get; init; }

        public StoveHistory History() => new(House, Stove, Flue,
            [.. Earlier.Select(e => new EarlierVisit(e.Id, Firm.Day(e.PlannedStart), e.ThisFlue, e.NextInspection, e.Facts, e.Found))],
            [.. Stops.Select(s => new StandingStop(s.Code, Firm.Day(s.SetAt)))], Learned)
        {
            Ways = Firm.Works,
            SweptTold = SweptTold,
            Assumed = Assumed ?? [],
            Closed = Closed ?? [],
            Tuned = Tuned ?? new Dictionary<string, double>(),
            Lives = Lives ?? new Dictionary<string, LearnedLife>(),
            ModelLists = [.. (ModelLists ?? []).Select(m => new ModelList(m.Id, Firm.Day(m.PlannedStart), m.By, m.Facts))],
        };
    }

    private sealed record FactDocument(string Step, string Station, string Name, double? Value, string? Word, DateTimeOffset SavedAt);

    private sealed record VisitDocument(DateTimeOffset ReadAt, Firm Firm, Customer Customer, House House, Stove Stove, FlueVersion Flue, IReadOnlyList<EarlierDocument> Earlier,
        IReadOnlyList<StopDocument> Stops, IReadOnlyList<LearnedFact> Learned, VisitRow Visit, IReadOnlyList<FactDocument> Facts, IReadOnlyList<PartFound> Found)
        : StoveDocument(ReadAt, Firm, Customer, House, Stove, Flue, Earlier, Stops, Learned);
}
