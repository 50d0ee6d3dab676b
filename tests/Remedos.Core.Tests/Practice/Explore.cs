using Remedos.Core.Practice;
namespace Remedos.Core.Tests.Practice;
public sealed class Explore(ITestOutputHelper o)
{
    [Fact]
    public void Look()
    {
        foreach (PracticeLevel level in PracticeLevel.All)
        {
            int right = 0, n = 40; double minutes = 0, points = 0; var sw = System.Diagnostics.Stopwatch.StartNew();
            Dictionary<string,int> counts = [];
            for (int seed = 0; seed < n; seed++)
            {
                PracticeCase c = PracticeCase.Draw(level, seed);
                foreach (string f in c.Faults.Keys) counts[f] = counts.GetValueOrDefault(f) + 1;
                PracticeStand best = BestWay.Of(c);
                bool ok = best.Left(c).Count == 0;
                right += ok ? 1 : 0; minutes += best.Minutes;
                var s = PracticeScore.Of(c, best, new PracticeEnding(ToldOwner.Truth(c, best), true), best);
                points += s.Points;
                if (seed < 12) o.WriteLine($"{level.Number}/{seed} {c.Row.Id} {c.Row.Cooler} [{string.Join(",", c.Faults.Select(f => $"{f.Key}={f.Value:0.00}"))}] th={c.Theory} ok={ok} {best.Minutes:0} min {s.Points:0}: {string.Join(" > ", best.Acts.Select(a => a.Id + (a.State is null ? "" : "=" + a.State)))}");
            }
            o.WriteLine($"LEVEL {level.Number}: right {right}/{n}, {minutes / n:0} min, points {points / n:0}, {sw.ElapsedMilliseconds / n} ms; {string.Join(" ", counts.Select(c => $"{c.Key}:{c.Value}"))}");
        }
        var d = Debrief.Of(PracticeCase.Draw(PracticeLevel.All[1], 3), PracticeStand.Fresh.Ran("usual"));
        foreach (var r in d.Rows) o.WriteLine($"{r.Bits:0.00} {r.Minutes} {r.Title} {r.Made} {string.Join("; ", r.Answer)}");
        foreach (var r in d.Path) o.WriteLine($"{r.Share:0.00} {r.Title}");
    }
}
