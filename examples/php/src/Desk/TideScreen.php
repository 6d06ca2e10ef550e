<?php

declare(strict_types=1);

namespace Quayside\Desk;

use Quayside\Store\PdoBookings;

final class TideScreen
{
    public function show(PdoBookings $bookings, string $vessel): string
    {
        return implode("\n", array_map(fn ($b) => $b->vessel, $bookings->of($vessel)));
    }
}
