using System.ComponentModel;
using System.Text.Json;
using Microsoft.AspNetCore.Http.Metadata;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Says which parameter of a query is not of its type, once binding has found that one is not.</summary>
internal static class UnreadableParameter
{
    /// <summary>Longest part of a value that is repeated, in characters.</summary>
    private const int Most = 40;

    /// <summary>Names the first parameter that can't be read.</summary>
    public static Refusal Of(HttpContext context)
    {
        foreach (var parameter in context.GetEndpoint()?.Metadata.GetOrderedMetadata<IParameterBindingMetadata>() ?? [])
        {
            string? value = parameter.HasTryParse ? context.Request.Query[parameter.Name].FirstOrDefault() : null;
            if (!string.IsNullOrEmpty(value) && !CanRead(value, parameter.ParameterInfo.ParameterType))
            {
                return Says(value, JsonNamingPolicy.CamelCase.ConvertName(parameter.Name));
            }
        }

        return Refusal.Invalid(RequestFaults.Unreadable, RequestFaults.SaysUnreadable);
    }

    /// <summary>The sentence about one value.</summary>
    public static Refusal Says(string value, string name) =>
        Refusal.Invalid(
            RequestFaults.Unreadable,
            $"“{(value.Length <= Most ? value : $"{value[..Most]}…")}” can't be read as “{name}”; leave it out, or see /openapi/v1.json."
        );

    private static bool CanRead(string value, Type type)
    {
        type = Nullable.GetUnderlyingType(type) ?? type;
        if (type == typeof(string))
        {
            return true;
        }

        try
        {
            // A converter takes white space and hexadecimal numbers too, which binding does not.
            return TypeDescriptor.GetConverter(type).ConvertFromInvariantString(value) is not null
                && (!type.IsPrimitive || type == typeof(bool) || value.All(c => char.IsAsciiDigit(c) || c is '-' or '+'));
        }
        catch (Exception refused) when (refused is FormatException or ArgumentException or NotSupportedException or OverflowException)
        {
            return false;
        }
    }
}
