<?php

declare(strict_types=1);

namespace Quayside\Calendar;

use Quayside\Store\ClosedDays;

final class Holidays
{
    public static function closed(string $day): bool
    {
        return in_array($day, (new ClosedDays())->all(), true);
    }
}
