-- require a filter on the partitions of saltmere.reading
ALTER TABLE saltmere.reading SET OPTIONS (require_partition_filter=true);
