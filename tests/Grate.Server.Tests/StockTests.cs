using System.Net;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>Stock of vans and store, and the cutting plan of a visit, a day and a week.</summary>
public sealed class StockTests(GrateServer server) : IClassFixture<GrateServer>
{
    private static async Task<JsonElement> AddAsync(HttpClient client, Guid? vanId, string kind, double? sizeMm, double amount)
    {
        var id = Guid.CreateVersion7();
        var stock = await client.SendAsync(HttpMethod.Post, "/api/stock", new { id, vanId, kind, sizeMm, amount });
        return Piece(stock, id);
    }

    private static JsonElement Piece(JsonElement stock, Guid id) => stock.GetProperty("pieces").EnumerateArray().Select(p => p.GetProperty("piece")).SingleOrDefault(p => p.Text("id") == id.ToString());

    private static Task<JsonElement> MoveAsync(HttpClient client, JsonElement piece, object change, HttpStatusCode expected = HttpStatusCode.OK) =>
        client.SendAsync(HttpMethod.Post, $"/api/stock/{piece.Text("id")}/moves", change, expected);

    private Task<Guid> VanAsync(string isIda = "=") => server.ScalarAsync<Guid>($"select id from people where role = 'technician' and name {isIda} 'Ida Varnholt' limit 1");

    [Fact]
    public async Task Two_who_use_of_one_piece_at_once_both_count_and_a_save_sent_twice_counts_once()
    {
        var client = await server.SignedInAsync("technician");
        var piece = await AddAsync(client, await VanAsync(), "rope", 12, 2);
        var (mine, twice) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await Task.WhenAll(new[] { mine, twice, twice, twice }.Select(saveId => MoveAsync(client, piece, new { saveId, baseVersion = 1, move = "used", amount = 0.5, note = "ash door" })));
        var stock = await client.ReadAsync("/api/stock");
        Assert.Equal(1.0, Piece(stock, Guid.Parse(piece.Text("id"))).Number("amount"));
        Assert.Equal(2, stock.GetProperty("log").EnumerateArray().Count(l => l.GetProperty("line").Text("note") == "ash door"));
        // What somebody counted is of what lay there then.
        var stale = await MoveAsync(client, piece, new { saveId = Guid.CreateVersion7(), baseVersion = 1, move = "counted", amount = 2 }, HttpStatusCode.Conflict);
        Assert.StartsWith("Somebody changed this piece", stale.Text("title"), StringComparison.Ordinal);
        await MoveAsync(client, piece, new { saveId = Guid.CreateVersion7(), baseVersion = 3, move = "counted", amount = 0.9 });
        // What is used up is gone from the list and stays in the log.
        var after = await MoveAsync(client, piece, new { saveId = Guid.CreateVersion7(), baseVersion = 4, move = "used", amount = 0.9 });
        Assert.Equal(JsonValueKind.Undefined, Piece(after, Guid.Parse(piece.Text("id"))).ValueKind);
        Assert.Contains("between 0.00 and 100.00 m", (await MoveAsync(client, piece, new { saveId = Guid.CreateVersion7(), baseVersion = 5, move = "counted", amount = 1000 }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        await server.ScalarAsync<int>("select count(*)::int from stock_log");
        await Assert.ThrowsAnyAsync<Exception>(() => server.ScalarAsync<int>("with gone as (delete from stock_log returning 1) select count(*)::int from gone"));
    }

    [Fact]
    public async Task Anothers_van_is_not_reached_and_the_store_is_everybodys()
    {
        var (ida, owner) = (await server.SignedInAsync("technician"), await server.SignedInAsync("owner"));
        var others = await AddAsync(owner, await VanAsync("<>"), "cement", null, 2);
        await MoveAsync(ida, others, new { saveId = Guid.CreateVersion7(), baseVersion = 1, move = "used", amount = 1 }, HttpStatusCode.Forbidden);
        var store = await AddAsync(ida, null, "rope", 10, 25);
        var moved = await MoveAsync(ida, store, new { saveId = Guid.CreateVersion7(), baseVersion = 1, move = "moved", vanId = await VanAsync() });
        Assert.Equal((await VanAsync()).ToString(), Piece(moved, Guid.Parse(store.Text("id"))).Text("vanId"));
        Assert.Contains("no such van", (await MoveAsync(ida, store, new { saveId = Guid.CreateVersion7(), baseVersion = 2, move = "moved", vanId = Guid.CreateVersion7() }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        await ida.SendAsync(HttpMethod.Post, $"/api/stock/{Guid.CreateVersion7()}/moves", new { saveId = Guid.CreateVersion7(), baseVersion = 1, move = "used", amount = 1 }, HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Visit_s_seals_are_cut_from_its_van_and_the_off_cut_goes_back()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("technician");
        var visit = await client.VisitAsync(0);
        var van = await own.ScalarAsync<Guid>($"select technician_id from visits where id = '{visit}'");
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("door-rope", "spent"));
        var before = await client.ReadAsync($"/api/stock/cuts?visitId={visit}");
        Assert.Contains("Not measured yet", before.GetProperty("sentences").ToString(), StringComparison.Ordinal);
        await client.KeepAsync(visit, "seals", new { seals = new { door = new { widthMm = 10, depthMm = 6, lineM = 2.6 } } });

        // 2.677 m: longer than the van's 2.5 m and 1.1 m; the store's roll is far away, so a roll is bought.
        var plan = await client.ReadAsync($"/api/stock/cuts?visitId={visit}");
        var cut = Assert.Single(plan.GetProperty("cuts").EnumerateArray().ToList());
        Assert.Equal("rope roll 12 mm, 25 m", cut.Text("name"));
        // Of the day it is cut from the store's roll.
        var day = await client.ReadAsync("/api/stock/cuts?days=7");
        Assert.Contains(day.GetProperty("cuts").EnumerateArray(), c => c.Text("name").Contains("in the store", StringComparison.Ordinal));

        var done = new { saveId = Guid.CreateVersion7(), vanId = (Guid?)van, offerId = cut.Text("offerId"), seals = new[] { new { visitId = visit, place = "door", lengthM = 2.677 } } };
        await client.SendAsync(HttpMethod.Post, "/api/stock/cuts", done, HttpStatusCode.NoContent);
        await client.SendAsync(HttpMethod.Post, "/api/stock/cuts", done, HttpStatusCode.NoContent);
        var stock = await client.ReadAsync("/api/stock");
        Assert.Equal((22.323, van.ToString()), (Piece(stock, done.saveId).Number("amount"), Piece(stock, done.saveId).Text("vanId")));
        Assert.Equal("Every seal that is due here is cut.", Sentence(await client.ReadAsync($"/api/stock/cuts?visitId={visit}")));
        // Rope of another size, or tape, is not for this seal.
        var tape = await AddAsync(client, van, "tape", 12, 5);
        Assert.Contains("it takes 12 mm rope; that piece is 12 mm tape", (await client.SendAsync(HttpMethod.Post, "/api/stock/cuts", new { saveId = Guid.CreateVersion7(), pieceId = tape.Text("id"), done.seals }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        // Another device that cuts for the same seal is told; a spoilt one is cut again.
        var again = new { saveId = Guid.CreateVersion7(), vanId = (Guid?)van, pieceId = done.saveId, done.seals };
        Assert.Contains("is cut for it already", (await client.SendAsync(HttpMethod.Post, "/api/stock/cuts", again, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        await client.SendAsync(HttpMethod.Post, "/api/stock/cuts/spoilt", new { saveId = Guid.CreateVersion7(), visitId = visit, place = "door" }, HttpStatusCode.NoContent);
        Assert.Equal("Everything can be cut from what is there.", Sentence(await client.ReadAsync($"/api/stock/cuts?visitId={visit}")));
        await client.SendAsync(HttpMethod.Post, "/api/stock/cuts", again with { saveId = Guid.CreateVersion7() }, HttpStatusCode.NoContent);
        Assert.Equal(19.646, Piece(await client.ReadAsync("/api/stock"), done.saveId).Number("amount"));
    }

    private static string Sentence(JsonElement plan) => plan.GetProperty("sentences").Words();

    [Fact]
    public async Task Cuts_that_cannot_be_are_told()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        var seals = new[] { new { visitId = visit, place = "door", lengthM = 1.2 } };
        object Done(Guid? pieceId, object of) => new { saveId = Guid.CreateVersion7(), pieceId, seals = of };
        await client.SendAsync(HttpMethod.Post, "/api/stock/cuts", Done(Guid.CreateVersion7(), seals), HttpStatusCode.NotFound);
        Assert.Contains("Between 1 and 40", (await client.SendAsync(HttpMethod.Post, "/api/stock/cuts", Done(null, Array.Empty<object>()), HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        Assert.Contains("Every seal stands once", (await client.SendAsync(HttpMethod.Post, "/api/stock/cuts", Done(null, seals.Concat(seals)), HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        Assert.Contains("between 0.01 and 100.00 m", (await client.SendAsync(HttpMethod.Post, "/api/stock/cuts", Done(null, new[] { new { visitId = visit, place = "door", lengthM = 0 } }), HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        foreach (var query in new[] { "days=8", "days=0", "day=0001-01-01", $"technicianId={Guid.CreateVersion7()}" })
            Assert.Equal(HttpStatusCode.BadRequest, (await client.GetAsync(new Uri($"/api/stock/cuts?{query}", UriKind.Relative))).StatusCode);
        await client.SendAsync(HttpMethod.Post, "/api/stock/cuts/spoilt", new { saveId = Guid.CreateVersion7(), visitId = visit, place = "lid" }, HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Offers_are_the_desk_s()
    {
        var (office, id) = (await server.SignedInAsync("office"), Guid.CreateVersion7());
        async Task<string[]> RefusedAsync(object offer) => [.. (await office.SendAsync(HttpMethod.Put, $"/api/stock/offers/{id}", offer, HttpStatusCode.BadRequest)).GetProperty("errors").EnumerateObject().Select(e => e.Name).Order()];
        Assert.Equal(["kind", "name", "price"], await RefusedAsync(new { }));
        Assert.Equal(["amount", "name", "price", "sizeMm"], await RefusedAsync(new { kind = "rope" }));
        Assert.Equal(["leadDays", "name", "sizeMm", "supplierMail"], await RefusedAsync(new { kind = "duct", amount = 1, price = 3, leadDays = 500, supplierMail = "by post" }));
        object Offer(double price) => new { name = "kit 16 mm", kind = "rope", sizeMm = 16, amount = 2.5, price };
        await office.SendAsync(HttpMethod.Put, $"/api/stock/offers/{id}", Offer(22));
        var stock = await office.SendAsync(HttpMethod.Put, $"/api/stock/offers/{id}", Offer(24));
        Assert.Equal(24, stock.GetProperty("offers").EnumerateArray().Single(o => o.Text("id") == id.ToString()).Number("price"));
        stock = await office.SendAsync(HttpMethod.Delete, $"/api/stock/offers/{id}", new { });
        Assert.DoesNotContain(stock.GetProperty("offers").EnumerateArray(), o => o.Text("id") == id.ToString());
    }

    [Fact]
    public async Task What_a_signed_visit_found_is_wanted_ordered_once_and_booked_in_partly()
    {
        var outbox = Directory.CreateTempSubdirectory("grate-outbox").FullName;
        await using var own = new GrateServer(null, ("Outbox:Folder", outbox));
        var (office, ida) = (await own.SignedInAsync("office"), await own.SignedInAsync("technician"));
        static List<JsonElement> Wants(JsonElement parts) => [.. parts.GetProperty("plan").GetProperty("wants").EnumerateArray()];
        static JsonElement? List(JsonElement parts, string part) => parts.GetProperty("plan").GetProperty("lists").EnumerateArray().Where(l => l.ToString().Contains(part, StringComparison.Ordinal)).Cast<JsonElement?>().FirstOrDefault();

        // The demo's burnt-through baffle is wanted, and nobody has one.
        var before = await office.ReadAsync("/api/parts");
        var baffles = Wants(before).Where(w => w.GetProperty("want").GetProperty("part").Text("kind") == "baffle").ToList();
        Assert.NotEmpty(baffles);
        var list = List(before, "vermiculite baffle")!.Value;
        var csv = await office.GetStringAsync(new Uri($"/api/parts/list.csv?supplier={Uri.EscapeDataString(list.Text("supplier"))}&on={list.Text("on")}", UriKind.Relative));
        Assert.StartsWith("supplier,order on,part,packs,cost\r\nLower Lehn Brickworks,", csv, StringComparison.Ordinal);
        await office.ReadAsync($"/api/parts/list.csv?supplier=nobody&on={list.Text("on")}", HttpStatusCode.NotFound);

        // Sent twice it is one order and one message.
        var order = new { saveId = Guid.CreateVersion7(), lines = list.GetProperty("lines").EnumerateArray().Select(l => new { offerId = l.Text("offerId"), packs = 2 * baffles.Count }).ToList() };
        var ordered = await office.SendAsync(HttpMethod.Post, "/api/parts/orders", order);
        Assert.Equal(ordered.GetProperty("coming").GetArrayLength(), (await office.SendAsync(HttpMethod.Post, "/api/parts/orders", order)).GetProperty("coming").GetArrayLength());
        var mail = await MimeKit.MimeMessage.LoadAsync(Assert.Single(Directory.GetFiles(outbox)));
        Assert.Equal("orders@lower-lehn-brickworks.example", mail.To.Mailboxes.Single().Address);
        Assert.Contains("× vermiculite baffle, cut to size", mail.TextBody, StringComparison.Ordinal);
        Assert.Null(List(ordered, "vermiculite baffle"));
        Assert.StartsWith("Ordered, comes", Wants(ordered).First(w => w.GetProperty("want").GetProperty("part").Text("kind") == "baffle").GetProperty("sentence").GetProperty("spans").EnumerateArray().Aggregate("", (said, span) => said + span.Text("text")), StringComparison.Ordinal);

        // One pack comes, then more than is open: no more comes in than was ordered.
        var purchase = ordered.GetProperty("coming").EnumerateArray().Single(p => p.Text("kind") == "baffle");
        Task<JsonElement> ReceiveAsync(object what, HttpStatusCode expected = HttpStatusCode.OK) => ida.SendAsync(HttpMethod.Post, $"/api/parts/orders/{purchase.Text("id")}/received", what, expected);
        var first = new { saveId = Guid.CreateVersion7(), packs = 1 };
        await ReceiveAsync(first);
        Assert.Equal(1, (await ReceiveAsync(first)).GetProperty("coming").EnumerateArray().Single(p => p.Text("kind") == "baffle").Number("received"));
        await ReceiveAsync(new { saveId = Guid.CreateVersion7(), packs = 0 }, HttpStatusCode.BadRequest);
        await ReceiveAsync(new { saveId = Guid.CreateVersion7(), packs = 1, vanId = await own.ScalarAsync<Guid>("select id from people where role = 'technician' and name <> 'Ida Varnholt' limit 1") }, HttpStatusCode.Forbidden);
        var all = await ReceiveAsync(new { saveId = Guid.CreateVersion7(), packs = 90 });
        Assert.DoesNotContain(all.GetProperty("coming").EnumerateArray(), p => p.Text("kind") == "baffle");
        Assert.Equal(2 * baffles.Count, (await ida.ReadAsync("/api/stock")).GetProperty("pieces").EnumerateArray().Select(p => p.GetProperty("piece")).Where(p => p.Text("kind") == "baffle").Sum(p => p.Number("amount")));
        Assert.Equal("It lies there.", Wants(all).First(w => w.GetProperty("want").GetProperty("part").Text("kind") == "baffle").GetProperty("sentence").GetProperty("spans").EnumerateArray().Aggregate("", (said, span) => said + span.Text("text")));

        // Parcel A was booked, then B: A sent again is still A.
        Assert.Equal(all.GetProperty("coming").GetArrayLength(), (await ReceiveAsync(first)).GetProperty("coming").GetArrayLength());
        Assert.Equal(2 * baffles.Count, (await ida.ReadAsync("/api/stock")).GetProperty("pieces").EnumerateArray().Select(p => p.GetProperty("piece")).Where(p => p.Text("kind") == "baffle").Sum(p => p.Number("amount")));
        // A stove that is taken out wants nothing any more.
        var gone = baffles[0].GetProperty("want").Text("stoveId");
        await own.ScalarAsync<long>($"with v as (delete from visits where appliance_id = '{gone}' and state = 'open' and not exists (select from visit_steps s where s.visit_id = visits.id) returning 1), c as (update visits set state = 'cancelled' where appliance_id = '{gone}' and state = 'open' returning 1) select count(*) from c");
        await office.SendAsync(HttpMethod.Post, $"/api/households/{await own.ScalarAsync<Guid>($"select s.customer_id from appliances a join sites s on s.id = a.site_id where a.id = '{gone}'")}/stoves/{gone}/out", new { why = "scrapped" });
        Assert.DoesNotContain(Wants(await office.ReadAsync("/api/parts")), w => w.GetProperty("want").Text("stoveId") == gone);

        // What cannot be ordered is told, and rope comes in piece by piece.
        Assert.Contains("Packs must lie between 1 and 1000", (await office.SendAsync(HttpMethod.Post, "/api/parts/orders", new { saveId = Guid.CreateVersion7(), lines = new[] { new { offerId = Guid.CreateVersion7(), packs = 0 } } }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        var offers = (await office.ReadAsync("/api/stock")).GetProperty("offers").EnumerateArray().ToList();
        string Offer(string name) => offers.Single(o => o.Text("name") == name).Text("id");
        Assert.Contains("goes to one supplier", (await office.SendAsync(HttpMethod.Post, "/api/parts/orders", new { saveId = Guid.CreateVersion7(), lines = new[] { new { offerId = Offer("flue probe"), packs = 1 }, new { offerId = Offer("glass tape 10 mm, 2 m"), packs = 1 } } }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        var rope = (await office.SendAsync(HttpMethod.Post, "/api/parts/orders", new { saveId = Guid.CreateVersion7(), lines = new[] { new { offerId = Offer("rope kit 14 mm, 2.5 m with cement"), packs = 3 } } })).GetProperty("coming").EnumerateArray().Single(p => p.Text("kind") == "rope");
        await office.SendAsync(HttpMethod.Post, $"/api/parts/orders/{rope.Text("id")}/received", new { saveId = Guid.CreateVersion7(), packs = 2 });
        await office.SendAsync(HttpMethod.Post, $"/api/parts/orders/{rope.Text("id")}/received", new { saveId = Guid.CreateVersion7(), packs = 0, ends = true });
        await office.SendAsync(HttpMethod.Post, $"/api/parts/orders/{rope.Text("id")}/received", new { saveId = Guid.CreateVersion7(), packs = 1 }, HttpStatusCode.NotFound);
        Assert.Equal(2, (await office.ReadAsync("/api/stock")).GetProperty("pieces").EnumerateArray().Select(p => p.GetProperty("piece")).Count(p => p.Text("kind") == "rope" && p.Number("amount") == 2.5 && p.GetProperty("vanId").ValueKind == JsonValueKind.Null));
        Directory.Delete(outbox, true);
    }

    [Fact]
    public async Task Visit_is_placed_before_its_parts_are_there_only_knowingly_and_says_so()
    {
        await using var own = new GrateServer();
        var office = await own.SignedInAsync("office");
        var stove = await own.ScalarAsync<Guid>("select appliance_id from due_stoves where wants @> '[{\"kind\":\"baffle\"}]' and appliance_id not in (select appliance_id from visits where state = 'open') limit 1");
        var technician = await own.ScalarAsync<Guid>("select id from people where role = 'technician' limit 1");
        object Plan(bool despite) => new { id = Guid.CreateVersion7(), applianceId = stove, technicianId = technician, day = "2027-10-18", time = "09:00:00", minutes = 60, despite };
        var asked = await office.SendAsync(HttpMethod.Post, "/api/season/visits", Plan(false), HttpStatusCode.Conflict);
        Assert.Contains("Parts would be missing: baffle, which comes", asked.Text("title"), StringComparison.Ordinal);
        await office.SendAsync(HttpMethod.Post, "/api/season/visits", Plan(true), HttpStatusCode.NoContent);
        var visit = await own.ScalarAsync<Guid>($"select id from visits where appliance_id = '{stove}' and state = 'open'");
        Assert.StartsWith("Parts would be missing: baffle", (await office.ReadAsync($"/api/visits/{visit}/parts")).Text("sentence"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_comes_is_booked_in_once_however_many_do_it_at_once()
    {
        var office = await server.SignedInAsync("office");
        var probe = (await office.ReadAsync("/api/stock")).GetProperty("offers").EnumerateArray().Single(o => o.Text("name") == "castable, bag of 25 kg").Text("id");
        // Ten devices send one order of five bags: it is one.
        var order = new { saveId = Guid.CreateVersion7(), lines = new[] { new { offerId = probe, packs = 5 } } };
        await Task.WhenAll(Enumerable.Range(0, 10).Select(_ => office.SendAsync(HttpMethod.Post, "/api/parts/orders", order)));
        var purchase = Assert.Single((await office.ReadAsync("/api/parts")).GetProperty("coming").EnumerateArray(), p => p.Text("kind") == "castable");
        var before = await server.ScalarAsync<double>("select sum(amount) from stock_pieces where kind = 'castable'");
        // Twelve book two each in: five come, and no more.
        await Task.WhenAll(Enumerable.Range(0, 12).Select(_ => office.SendAsync(HttpMethod.Post, $"/api/parts/orders/{purchase.Text("id")}/received", new { saveId = Guid.CreateVersion7(), packs = 2 })));
        Assert.Equal(before + 5, await server.ScalarAsync<double>("select sum(amount) from stock_pieces where kind = 'castable'"));
        Assert.Equal(5, await server.ScalarAsync<int>($"select received from purchases where id = '{purchase.Text("id")}'"));
    }

    [Fact]
    public async Task A_catalogue_goes_out_as_a_list_and_comes_in_changed_all_or_nothing()
    {
        await using var server = new GrateServer();
        var (desk, ida) = (await server.SignedInAsync("office"), await server.SignedInAsync("technician"));
        var list = await desk.GetStringAsync(new Uri("/api/stock/catalogue.csv", UriKind.Relative));
        Assert.StartsWith("part,kind,size mm,amount,price,supplier,orders to,lead days,minimum,shelf months\r\n", list, StringComparison.Ordinal);
        var count = await server.ScalarAsync<long>("select count(*) from stock_offers");
        Assert.Equal(count + 1, list.TrimEnd().Split("\r\n").Length);
        async Task<(HttpStatusCode Status, JsonElement Body)> SendAsync(string text, HttpClient? who = null)
        {
            using var content = new StringContent(text, System.Text.Encoding.UTF8, "text/csv");
            using var answer = await (who ?? desk).PostAsync(new Uri("/api/stock/catalogue.csv", UriKind.Relative), content);
            return (answer.StatusCode, (await answer.JsonAsync()).Clone());
        }
        // Sent back as it came it changes nothing.
        Assert.Equal(HttpStatusCode.OK, (await SendAsync(list)).Status);
        Assert.Equal(list, await desk.GetStringAsync(new Uri("/api/stock/catalogue.csv", UriKind.Relative)));
        // In another order, with semicolons and decimal commas, a formula that is none, one part dearer.
        var name = await server.ScalarAsync<string>("select name from stock_offers where kind = 'rope' order by id limit 1");
        var supplier = await server.ScalarAsync<string>($"select supplier from stock_offers where name = '{name}' limit 1");
        var size = await server.ScalarAsync<double>($"select size_mm from stock_offers where name = '{name}' and supplier = '{supplier}' limit 1");
        var changed = await SendAsync($"Price;Part;Kind;Amount;Supplier;Size mm\n99,5;{name};rope;2,5;{supplier};{size}\n3;'=Fire cement;cement;1;New Hearth Supply;\n\n");
        Assert.Equal(HttpStatusCode.OK, changed.Status);
        Assert.Equal(count + 1, await server.ScalarAsync<long>("select count(*) from stock_offers"));
        Assert.Equal((99.5, 2.5), (await server.ScalarAsync<double>($"select price::float8 from stock_offers where name = '{name}' and supplier = '{supplier}'"), await server.ScalarAsync<double>($"select amount::float8 from stock_offers where name = '{name}' and supplier = '{supplier}'")));
        Assert.Equal(1L, await server.ScalarAsync<long>("select count(*) from stock_offers where name = '=Fire cement'"));
        // What a list has no column for stays.
        Assert.Equal(HttpStatusCode.OK, (await SendAsync("part,kind,amount,price,supplier\n\"cement, box of 6 tubes\",cement,6,41,Valley Stove Trade\n")).Status);
        Assert.Equal(1L, await server.ScalarAsync<long>("select count(*) from stock_offers where name = 'cement, box of 6 tubes' and price = 41 and minimum = 6 and shelf_months = 24"));
        // One bad line, and nothing of it comes in.
        var refused = await SendAsync("part,kind,size mm,amount,price\nGood,cement,,1,5\nBad,rope,dear,-1,5\nGood,cement,,1,5\nWhat,gremlin,,1,5\n");
        Assert.Equal(HttpStatusCode.BadRequest, refused.Status);
        Assert.Equal(["line 3", "line 4", "line 5"], refused.Body.GetProperty("errors").EnumerateObject().Select(e => e.Name));
        Assert.Contains("“dear” is no number", refused.Body.GetProperty("errors").GetProperty("line 3").ToString(), StringComparison.Ordinal);
        Assert.Equal(0L, await server.ScalarAsync<long>("select count(*) from stock_offers where name = 'Good'"));
        foreach (var (bad, said) in new[] { ("", "empty"), ("part,kind\nRope,rope\n", "Missing: amount, price"), ("part,kind,amount,price\n", "nothing below"), ("part,kind,amount,price\n\"open,rope,1,1\n", "no list of cells") })
            Assert.Contains(said, (await SendAsync(bad)).Body.GetProperty("errors").GetProperty("list").ToString(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Forbidden, (await SendAsync(list, ida)).Status);
    }
}
