package power

// described reports whether the rig says anything about its feeds at all.
func (n *Network) described() bool { return n.rig.Supplies != nil || n.rig.Leads != nil }

// eachEnd visits every end of every lead.
func (n *Network) eachEnd(visit func(lead int, e *EndLoad)) {
	for i := range n.Leads {
		for j := range n.Leads[i].From {
			visit(i, &n.Leads[i].From[j])
		}
		for j := range n.Leads[i].To {
			visit(i, &n.Leads[i].To[j])
		}
	}
}

// eachLoad visits the load ends that are plugged into something and go in.
func (n *Network) eachLoad(visit func(lead int, e *EndLoad)) {
	for i := range n.Leads {
		for j := range n.Leads[i].To {
			if e := &n.Leads[i].To[j]; e.port.kind != nothing && e.Fit != NoEntry {
				visit(i, e)
			}
		}
	}
}
