using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace YardRelay.Records.Sqlite;

/// <summary>For <c>dotnet ef migrations add</c>.</summary>
public sealed class DesignTimeFactory : IDesignTimeDbContextFactory<YardDb>
{
    /// <inheritdoc/>
    public YardDb CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<YardDb>();
        RecordsOptions.Use(options, "Data Source=design.db");
        return new(options.Options);
    }
}
