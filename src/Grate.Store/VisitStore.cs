using System.Data;
using Dapper;
using Grate.Core;
using Grate.Core.Visits;
using Npgsql;

namespace Grate.Store;

/// <summary>What a visit is signed as.</summary>
/// <param name="NextInspection">Next inspection; null where nobody knows of one.</param>
/// <param name="LeftOut">Why something was left out, by its code, JSON.</param>
/// <param name="Dates">What is due from then on, JSON.</param>
public sealed record SignedAs(DateOnly? NextInspection, string LeftOut, string Dates);

/// <summary>Visits: one document with versions. Steps and findings are saved one by one.</summary>
public sealed class VisitStore(NpgsqlDataSource database)
{
    internal const string StepColumns = """
        select s.visit_id, s.step, s.status, s.reason, s.note, s.version, s.save_id, s.saved_at, p.name as saved_by
        from visit_steps s join people p on p.id = s.saved_by
        """;

    internal const string FindingColumns = """
        select f.id, f.visit_id, f.step, f.part, f.condition, f.note, f.look_again, f.stop_code, f.version, f.save_id, f.saved_at, p.name as saved_by
        from findings f join people p on p.id = f.saved_by
        """;

    private const string VisitColumns = """
        select v.id, v.appliance_id, v.flue_version_id, v.technician_id, t.name as technician, v.planned_start, v.planned_end,
               v.purpose, v.complaint, v.state, v.signed_at, p.name as signed_by, v.next_inspection, v.inspects, v.left_out::text as left_out, v.helpers
        from visits v join people t on t.id = v.technician_id left join people p on p.id = v.signed_by
        """;

    /// <summary>Stops of a day, in order of time; of one technician or of all.</summary>
    public async Task<IReadOnlyList<RoundStop>> RoundAsync(DateTimeOffset from, DateTimeOffset to, Guid? technicianId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<RoundStop>("""
            select v.id as visit_id, a.id as appliance_id, v.technician_id, t.name as technician,
                   v.planned_start, v.planned_end, v.purpose, v.complaint, v.state, v.plan_version, c.name as customer, s.street, s.place,
                   s.latitude, s.longitude, a.kind, a.combustor, a.model, a.year,
                   (select count(*)::int from visit_steps x where x.visit_id = v.id and x.status <> 'open') as steps_done,
                   (select count(*)::int from safety_stops x where x.appliance_id = a.id and x.cleared_at is null) as stops, v.asked, v.helpers,
                   array(select h.name from people h where h.id = any(v.helpers) order by h.name) as helper_names
            from visits v
            join people t on t.id = v.technician_id
            join appliances a on a.id = v.appliance_id
            join sites s on s.id = a.site_id
            join customers c on c.id = s.customer_id
            where v.planned_start >= @from and v.planned_start < @to and v.state <> 'cancelled'
              and (@technicianId::uuid is null or @technicianId = any(v.technician_id || v.helpers))
            order by case when @technicianId::uuid is null then t.name end, v.planned_start
            """, new { from, to, technicianId })];
    }

    /// <summary>A visit's row, or null.</summary>
    public async Task<VisitRow?> FindAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<VisitRow>($"{VisitColumns} where v.id = @id", new { id });
    }

    /// <summary>Visits of a stove, newest first.</summary>
    public async Task<IReadOnlyList<VisitRow>> OfStoveAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<VisitRow>(
            $"{VisitColumns} where v.appliance_id = @applianceId and v.state <> 'cancelled' order by v.planned_start desc", new { applianceId })];
    }

    /// <summary>Plans a visit. The same one sent twice is one.</summary>
    public async Task<PlanState> PlanAsync(VisitPlan plan, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // One plan at a time per stove.
        if (await connection.QuerySingleOrDefaultAsync<Guid?>("select id from appliances where id = @ApplianceId and out_at is null for no key update", plan) is null)
            return PlanState.NoStove;
        if (await connection.QuerySingleOrDefaultAsync<bool?>("""
            select appliance_id = @ApplianceId and technician_id = @TechnicianId and planned_start = @Start and planned_end = @End from visits where id = @Id
            """, plan) is { } same)
        {
            return same ? PlanState.Planned : PlanState.Reused;
        }
        if (await connection.QuerySingleAsync<bool>("select exists (select 1 from visits where appliance_id = @ApplianceId and state = 'open')", plan))
            return PlanState.PlannedBefore;
        try
        {
            var planned = await connection.ExecuteAsync("""
                insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose, complaint, inspects)
                select @Id, @ApplianceId, f.id, @TechnicianId, @Start, @End, @Purpose, @Complaint, @Inspects
                from flue_versions f where f.appliance_id = @ApplianceId order by f.number desc limit 1
                """, plan);
            if (planned == 0)
                return PlanState.NoStove;
        }
        catch (PostgresException fault) when (fault.SqlState == PostgresErrorCodes.ExclusionViolation)
        {
            return PlanState.Taken;
        }
        await connection.ExecuteAsync("""
            insert into visit_steps (visit_id, step, status, reason, version, save_id, saved_at, saved_by)
            values (@Id, @step, 'skipped', @SkipReason, 1, @saveId, @at, @by)
            """, plan.Skipped.Select(step => new { plan.Id, step, plan.SkipReason, saveId = Guid.CreateVersion7(), at, by }));
        await PlanStore.PlacedAsync(connection, plan.Id, at);
        await PlanStore.LogAsync(connection, plan.Id, by, at, "Planned.");
        await transaction.CommitAsync();
        return PlanState.Planned;
    }

    /// <summary>Steps of visits as saved.</summary>
    public async Task<ILookup<Guid, StepRow>> StepsAsync(params Guid[] visitIds)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await StepsAsync(connection, visitIds);
    }

    /// <summary>The same, in a transaction.</summary>
    public static async Task<ILookup<Guid, StepRow>> StepsAsync(NpgsqlConnection connection, params Guid[] visitIds) => (await connection.QueryAsync<StepRow>($"{StepColumns} where s.visit_id = any(@visitIds)", new { visitIds })).ToLookup(s => s.VisitId);

    /// <summary>Findings of visits, by part.</summary>
    public async Task<ILookup<Guid, FindingRow>> FindingsAsync(params Guid[] visitIds)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<FindingRow>($"{FindingColumns} where f.visit_id = any(@visitIds) order by f.part, f.step", new { visitIds })).ToLookup(f => f.VisitId);
    }

    /// <summary>The latest word on every part of a stove, from signed visits; what was found after counts over what was found before.</summary>
    /// <param name="applianceId">The stove.</param>
    /// <param name="steps">Steps in working order.</param>
    public async Task<IReadOnlyList<FindingRow>> LatestFindingsAsync(Guid applianceId, string[] steps)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<FindingRow>("""
            select distinct on (f.part)
                   f.id, f.visit_id, f.step, f.part, f.condition, f.note, f.look_again, f.stop_code, f.version, f.save_id, f.saved_at, p.name as saved_by
            from findings f join visits v on v.id = f.visit_id join people p on p.id = f.saved_by
            where v.appliance_id = @applianceId and v.state = 'signed'
            order by f.part, v.planned_start desc, array_position(@steps, f.step) desc
            """, new { applianceId, steps })];
    }

    /// <summary>Additions to a signed visit, in order of time.</summary>
    public async Task<IReadOnlyList<AdditionRow>> AdditionsAsync(Guid visitId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<AdditionRow>("""
            select a.id, a.written_at, p.name as written_by, a.text
            from visit_additions a join people p on p.id = a.written_by
            where a.visit_id = @visitId order by a.written_at
            """, new { visitId })];
    }

    /// <summary>Saves a step. The same save sent twice is one save.</summary>
    /// <param name="step">New content; <see cref="StepRow.Version"/> is the version it started from, 0 for none.</param>
    /// <param name="by">Who saves.</param>
    /// <param name="at">When.</param>
    public Task<SaveOutcome<StepRow>> SaveStepAsync(StepRow step, Guid by, DateTimeOffset at) =>
        VisitSave.OfAsync(database, step.VisitId,
            c => c.QuerySingleOrDefaultAsync<StepRow>($"{StepColumns} where s.visit_id = @VisitId and s.step = @Step", step),
            step.Version, step.SaveId, s => s.Version, s => s.SaveId, s => (s.Status, s.Reason, s.Note) == (step.Status, step.Reason, step.Note),
            async (connection, _) =>
            {
                await connection.ExecuteAsync("""
                    insert into visit_steps (visit_id, step, status, reason, note, version, save_id, saved_at, saved_by)
                    values (@VisitId, @Step, @Status, @Reason, @Note, @Version + 1, @SaveId, @at, @by)
                    on conflict (visit_id, step) do update set status = excluded.status, reason = excluded.reason, note = excluded.note,
                        version = excluded.version, save_id = excluded.save_id, saved_at = excluded.saved_at, saved_by = excluded.saved_by
                    """, new { step.VisitId, step.Step, step.Status, step.Reason, step.Note, step.Version, step.SaveId, at, by });
                return (step with { Version = step.Version + 1 }, false);
            });

    /// <summary>Open visits of a stove.</summary>
    public async Task<Guid[]> OpenAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<Guid>("select id from visits where appliance_id = @applianceId and state = 'open'", new { applianceId })];
    }

    /// <summary>Saves a finding and opens the stop that rests on it, in one transaction. Another word ends no stop.</summary>
    /// <param name="finding">New content; its version is the one it started from, 0 for none.</param>
    /// <param name="covers">Word of the condition that it knowingly covers; null where it covers none.</param>
    /// <param name="by">Who saves.</param>
    /// <param name="at">When.</param>
    /// <returns>What became of it; as covered, with the word of another step, where it would take that back and nobody said that it is meant.</returns>
    public async Task<(SaveOutcome<FindingRow> Outcome, PartFound? Covered)> SaveFindingAsync(FindingRow finding, string? covers, Guid by, DateTimeOffset at)
    {
        PartFound? covered = null;
        var outcome = await VisitSave.OfAsync(database, finding.VisitId,
            c => c.QuerySingleOrDefaultAsync<FindingRow>($"{FindingColumns} where f.visit_id = @VisitId and f.step = @Step and f.part = @Part", finding),
            finding.Version, finding.SaveId, f => f.Version, f => f.SaveId,
            f => (f.Condition, f.Note, f.LookAgain, f.StopCode) == (finding.Condition, finding.Note, finding.LookAgain, finding.StopCode),
            async (connection, stored) =>
            {
                // A word that stays as it was takes nothing back.
                if (stored?.Condition != finding.Condition)
                {
                    var others = await connection.QueryAsync<(string Step, string Condition)>("select step, condition from findings where visit_id = @VisitId and part = @Part and step <> @Step", finding);
                    covered = Found(finding.Step, finding.Part, finding.Condition).Covered(others.Select(o => Found(o.Step, finding.Part, o.Condition)));
                    if (covered is not null && covers != Word.Of(covered.Condition))
                        return null;
                    covered = null;
                }
                try
                {
                    await WriteFindingAsync(connection, finding, by, at);
                }
                catch (PostgresException fault) when (fault.SqlState == PostgresErrorCodes.UniqueViolation)
                {
                    // The id is that of a finding elsewhere.
                    return null;
                }
                // Who saves a part as unsafe says that it is so now: where its stop was cleared before, one opens again.
                var opened = finding.StopCode is { } code && await StopStore.OpenAsync(connection,
                    new StopSource(finding.VisitId, finding.Step, null, finding.Part), new ComputedStop(code, finding.Note), by, at);
                return (finding with { Id = stored?.Id ?? finding.Id, Version = finding.Version + 1 }, opened);
            });
        return (outcome, covered);
    }

    private static PartFound Found(string step, string part, string condition) => new(step, part, Word.Find<Condition>(condition)!.Value);

    /// <summary>Takes a finding back; a stop that it opened stands on. Nothing happens if it is not there any more.</summary>
    /// <param name="visitId">The visit.</param>
    /// <param name="findingId">The finding.</param>
    /// <param name="version">The version that was looked at.</param>
    public async Task<SaveOutcome<FindingRow>> DropFindingAsync(Guid visitId, Guid findingId, int version)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var state = await VisitSave.LockAsync(connection, visitId);
        var stored = await connection.QuerySingleOrDefaultAsync<FindingRow>($"{FindingColumns} where f.id = @findingId", new { findingId });
        if (stored is null)
            return new SaveOutcome<FindingRow>(SaveState.Saved, null);
        if (stored.VisitId != visitId)
            return new SaveOutcome<FindingRow>(SaveState.Reused, null);
        if (state == "signed")
            return new SaveOutcome<FindingRow>(SaveState.Signed, stored);
        if (stored.Version != version)
            return new SaveOutcome<FindingRow>(SaveState.Stale, stored);
        await connection.ExecuteAsync("delete from findings where id = @findingId", new { findingId });
        await transaction.CommitAsync();
        return new SaveOutcome<FindingRow>(SaveState.Saved, null);
    }

    /// <summary>Signs a visit: from then on it only takes additions. What is sealed is concluded in the lock, on its one connection, while nobody can save.</summary>
    /// <param name="visitId">The visit.</param>
    /// <param name="by">Who signs.</param>
    /// <param name="at">When.</param>
    /// <param name="conclude">What it is signed as, as it stands now; null where it may not be signed so.</param>
    /// <returns>Saved; signed where it was before; stale where it may not be signed as it stands.</returns>
    public async Task<SaveState> SignAsync(Guid visitId, Guid by, DateTimeOffset at, Func<NpgsqlConnection, Task<SignedAs?>> conclude)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await SealStore.LockStovesAsync(connection, [visitId]);
        if (await VisitSave.LockAsync(connection, visitId) == "signed")
            return SaveState.Signed;
        if (await conclude(connection) is not { } signed)
            return SaveState.Stale;
        await connection.ExecuteAsync("""
            update visits set state = 'signed', signed_at = @at, signed_by = @by, next_inspection = @NextInspection, left_out = @LeftOut::jsonb where id = @visitId
            """, new { visitId, by, at, signed.NextInspection, signed.LeftOut });
        await SealStore.SealAsync(connection, [visitId], signed.Dates);
        await transaction.CommitAsync();
        return SaveState.Saved;
    }

    /// <summary>Adds to a signed visit. The same addition sent twice is one addition.</summary>
    /// <returns>Saved; reused where the id is that of another addition.</returns>
    public async Task<SaveState> AddAsync(Guid id, Guid visitId, Guid by, DateTimeOffset at, string text)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleAsync<bool>("""
            with added as (
                insert into visit_additions (id, visit_id, written_at, written_by, text) values (@id, @visitId, @at, @by, @text)
                on conflict (id) do nothing returning 1)
            select exists (select from added) or exists (select from visit_additions where id = @id and visit_id = @visitId and text = @text)
            """, new { id, visitId, at, by, text }) ? SaveState.Saved : SaveState.Reused;
    }

    private static async Task WriteFindingAsync(IDbConnection connection, FindingRow finding, Guid by, DateTimeOffset at)
    {
        var values = new
        {
            finding.Id,
            finding.VisitId,
            finding.Step,
            finding.Part,
            finding.Condition,
            finding.Note,
            finding.LookAgain,
            finding.StopCode,
            finding.Version,
            finding.SaveId,
            at,
            by,
        };
        await connection.ExecuteAsync("""
            insert into findings (id, visit_id, step, part, condition, note, look_again, stop_code, version, save_id, saved_at, saved_by)
            values (@Id, @VisitId, @Step, @Part, @Condition, @Note, @LookAgain, @StopCode, @Version + 1, @SaveId, @at, @by)
            on conflict (visit_id, step, part) do update set condition = excluded.condition, note = excluded.note, look_again = excluded.look_again,
                stop_code = excluded.stop_code, version = excluded.version, save_id = excluded.save_id,
                saved_at = excluded.saved_at, saved_by = excluded.saved_by
            """, values);
    }
}
