using System.Xml.Linq;
using Dapper;
using Microsoft.AspNetCore.DataProtection.Repositories;
using Npgsql;

namespace Grate.Store;

/// <summary>Keys of the cookies in PostgreSQL, so that any number of servers share them and restarts keep sessions.</summary>
public sealed class KeyStore(NpgsqlDataSource database) : IXmlRepository
{
    /// <inheritdoc/>
    public IReadOnlyCollection<XElement> GetAllElements()
    {
        using var connection = database.OpenConnection();
        return [.. connection.Query<string>("select xml from protection_keys").Select(XElement.Parse)];
    }

    /// <inheritdoc/>
    public void StoreElement(XElement element, string friendlyName)
    {
        using var connection = database.OpenConnection();
        connection.Execute("insert into protection_keys (name, xml) values (@friendlyName, @xml)",
            new { friendlyName, xml = element.ToString(SaveOptions.DisableFormatting) });
    }
}
